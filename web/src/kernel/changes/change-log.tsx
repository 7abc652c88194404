import { useInfiniteQuery } from '@tanstack/react-query';
import {
  fieldOf,
  isObjectKey,
  isSubject,
  type AnyRecord,
  type Condition,
  type LoggedChange,
  type Names,
} from '@zawn/core';
import { Button } from 'antd';
import { Fragment, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { loggedChanges } from '../../platform/api/queries';
import { LoadEarlier } from '../../platform/frame/load-earlier';
import { clock, counted, nearDate } from '../../platform/frame/format';
import { useOpening } from '../../platform/frame/opening';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { useBrought } from '../shell/feature';
import { useWording } from '../questions/use-wording';
import { GroupPart } from '../sentence/condition';
import { asGroup, fromGroup } from '../sentence/groups';
import { useSession } from '../../platform/sessions/session';
import '../sentence/sentence.css';
import { changesInWords } from '../timeline/change-in-words';
import { belongTogether } from '../timeline/folding';
import { useChangeWording } from '../timeline/use-change-wording';

/** The parameter of the address that asks about everybody’s changes; it carries the condition. */
export const OF_ALL = 'of';

function conditionIn(text: string | null): Condition | undefined {
  if (!text) return undefined;
  try {
    return JSON.parse(text) as Condition;
  } catch {
    return undefined;
  }
}

/** A line of the log as it is read: with the currency of its amounts. */
type LogLine = LoggedChange & { currency?: string | null };

/** What one write changed of one record stands in one line. */
function together(rows: readonly AnyRecord[]): LogLine[][] {
  const lines: LogLine[][] = [];
  for (const change of rows as unknown as LogLine[]) {
    const last = lines.at(-1);
    if (last && belongTogether(last[0], change)) last.push(change);
    else lines.push([change]);
  }
  return lines;
}

function ChangeRow({ changes, names }: { changes: readonly LogLine[]; names: Names }) {
  const { person, timeZone, catalogue } = useSession();
  const wordingIn = useChangeWording();
  const { open } = useOpening();
  const [isPlanning, setPlanning] = useState(false);
  const Plan = useBrought('forms').find(({ key }) => key === 'plan')?.Form;
  const [change] = changes;
  const { object, record } = change;
  const name = isObjectKey(object) ? names[object]?.[record] : undefined;
  const words = changesInWords(changes, wordingIn(change.currency));
  const through = fieldOf(catalogue, 'loggedChange', 'through')?.choices?.find(
    ({ key }) => key === change.through,
  );
  return (
    <>
      <li>
        <span className="second figure">{clock(change.at, timeZone)}</span>
        <span className="clip">
          {isSubject(object) && name ? (
            <button type="button" className="link-button" onClick={() => open(object, record)}>
              {name}
            </button>
          ) : (
            <span className="second">{object}</span>
          )}{' '}
          {words}
        </span>
        <span className="second clip">
          {person(change.person)?.name ?? 'Zawn'}
          {change.through !== 'hand' && through && `, ${through.label.toLowerCase()}`}
        </span>
        {isSubject(object) && (
          <Button
            size="small"
            aria-label={`Follow up: ${name ?? ''} ${words}`}
            aria-expanded={isPlanning}
            onClick={() => setPlanning(!isPlanning)}
          >
            Follow up
          </Button>
        )}
      </li>
      {isPlanning && isSubject(object) && (
        <li className="changes-plan">
          <div className="change-follow-up">
            {Plan && (
              <Plan
                on={{ object, id: record }}
                what={`Ask about: ${name ? `${name}, ${words}` : words}`.slice(0, 200)}
                close={() => setPlanning(false)}
              />
            )}
          </div>
        </li>
      )}
    </>
  );
}

/** Everything that was changed of what one may see, asked about by a sentence like any other list. */
export function ChangeLog() {
  const { today, dayOf } = useSession();
  const [parameters, setParameters] = useSearchParams();
  const text = parameters.get(OF_ALL);
  const where = useMemo(() => conditionIn(text), [text]);
  const pages = useInfiniteQuery(loggedChanges(where));
  const { data, error, refetch } = pages;
  const lines = useMemo(() => together(data?.pages.flatMap((page) => page.rows) ?? []), [data]);
  const names = useMemo(() => {
    const all: Names = {};
    for (const page of data?.pages ?? [])
      for (const [object, known] of Object.entries(page.names))
        all[object as keyof Names] = { ...all[object as keyof Names], ...known };
    return all;
  }, [data]);
  const wording = useWording(names);
  const change = (next: Condition | undefined) =>
    setParameters((before) => {
      before.set(OF_ALL, next ? JSON.stringify(next) : '');
      return before;
    });
  return (
    <>
      <div className="sentence" role="group" aria-label="Which changes">
        <span className="clause">
          Changes {where && 'where '}
          <GroupPart
            object="loggedChange"
            condition={asGroup(where)}
            onChange={(next) => change(fromGroup(next))}
            onRemove={() => change(undefined)}
            wording={wording}
            isFresh={false}
            nesting="top"
          />
        </span>
        {data && (
          <span className="second" role="status">
            {counted(data.pages[0].total, 'change')}
          </span>
        )}
      </div>
      {error ? (
        <Trouble error={error} retry={() => void refetch()} />
      ) : !data ? (
        <Skeleton rows={8} />
      ) : lines.length === 0 ? (
        <Empty title="No changes match this." />
      ) : (
        <ol className="changes" aria-label="Changes">
          {lines.map((changes, index) => (
            <Fragment key={changes[0].id}>
              {(index === 0 || dayOf(lines[index - 1][0].at) !== dayOf(changes[0].at)) && (
                <li className="changes-day">
                  <h2>{nearDate(dayOf(changes[0].at), today)}</h2>
                </li>
              )}
              <ChangeRow changes={changes} names={names} />
            </Fragment>
          ))}
          <LoadEarlier pages={pages} />
        </ol>
      )}
    </>
  );
}
