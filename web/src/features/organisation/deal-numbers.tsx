import { dealNumbersOf, numberBy, patternFault, type RecordOf } from '@zawn/core';
import { Input, Switch } from 'antd';
import { useState } from 'react';
import { useWrite } from '../../platform/api/use-write';
import { useSession } from '../../platform/sessions/session';
import { Setting } from './setting';
import { KeptNumber } from '../../platform/frame/kept-field';

/** How new deals are numbered; those that are there keep their numbers. */
export function DealNumbers({ settings }: { settings: RecordOf<'organisation'> & { version: number } }) {
  const { today } = useSession();
  const write = useWrite();
  const kept = dealNumbersOf(settings);
  const [typed, setTyped] = useState<{ pattern: string; over: string }>();
  const pattern = typed?.over === kept.pattern ? typed.pattern : kept.pattern;
  const fault = patternFault({ ...kept, pattern });
  const change = (body: Partial<RecordOf<'organisation'>>) =>
    write.mutate({ method: 'PATCH', path: '/organisation/1', version: settings.version, body });
  const canBeYearly = patternFault({ ...kept, isYearly: true }) === undefined;
  return (
    <section className="deal-numbers" aria-label="Numbers of deals">
      <h2>Numbers of deals</h2>
      <Setting label="Pattern: {YYYY} or {YY} for the year, {0000} for the number">
        {(id) => (
          <Input
            id={id}
            value={pattern}
            maxLength={60}
            status={fault === undefined ? '' : 'error'}
            onChange={({ target }) => setTyped({ pattern: target.value, over: kept.pattern })}
            onPressEnter={({ currentTarget }) => currentTarget.blur()}
            onBlur={() => {
              if (fault === undefined && pattern !== kept.pattern) change({ dealNumber: pattern });
            }}
          />
        )}
      </Setting>
      <p className={fault === undefined ? 'second' : 'attention late'} role={fault ? 'alert' : undefined}>
        {fault ?? `The first is ${numberBy({ ...kept, pattern }, 1, today)}, the next ones follow.`}
      </p>
      <Setting label="From">
        {(id) => (
          <KeptNumber
            id={id}
            value={kept.from}
            min={1}
            max={999_999_999}
            keep={(from) => from !== null && change({ dealNumberFrom: from })}
          />
        )}
      </Setting>
      <Setting label="Each year begins anew">
        {(id) => (
          <Switch
            id={id}
            size="small"
            checked={kept.isYearly}
            disabled={!kept.isYearly && !canBeYearly}
            title={canBeYearly ? undefined : 'The year has to be in the pattern'}
            onChange={(isYearly) => change({ dealNumberYearly: isYearly })}
          />
        )}
      </Setting>
    </section>
  );
}
