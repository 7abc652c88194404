import { dayIn, fieldOf, offered, type AnyRecord, type Field, type FieldValue } from '@zawn/core';
import { Input, Segmented } from 'antd';
import { useState, type ReactNode } from 'react';
import { pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { nearDate, money } from '../../platform/frame/format';
import { InlineForm } from '../../platform/frame/inline-form';
import { ChoiceSelect } from '../../kernel/records/choice-select';
import { FieldInput } from '../../kernel/records/field-input';
import { ReasonChips, SeveralReasons } from '../../kernel/records/reason-chips';
import { useSession } from '../../platform/sessions/session';
import './close-deal.css';

export type Ending = 'win' | 'lose';

interface Props {
  deal: AnyRecord;
  /** How it ended, where that is known already. */
  ending?: Ending;
  close: () => void;
}

interface Said {
  closedOn: string | null;
  value: number | null;
  wonReasons: string[];
  wonBecause: string;
  lossReason?: string;
  lossComment: string;
  lostTo: string | null;
  tryAgainOn: string | null;
}

function Part({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="close-part" role="group" aria-label={label}>
      <span className="close-label">{label}</span>
      {children}
    </div>
  );
}

/** What is missing before it can be closed, and otherwise what closing it will say. */
function labelOf(deal: AnyRecord, ending: Ending | undefined, said: Said, today: string): [string, boolean] {
  if (!ending) return ['Say how it ended', false];
  if (!said.closedOn || said.closedOn > today) return ['Say on which day, today at the latest', false];
  if (ending === 'lose') return said.lossReason ? ['Close as lost', true] : ['Choose a reason', false];
  if (deal.value === undefined) return ['Close as won', true];
  return said.value === null
    ? ['Enter the final value', false]
    : [`Close as won at ${money(said.value, String(deal.currency))}`, true];
}

/** Closes a deal where it stands: won at its final value, or lost for a reason of the list. */
export default function CloseDeal({ deal, ending: known, close }: Props) {
  const { catalogue, today, organisation } = useSession();
  const [ending, setEnding] = useState(known);
  // A deal that was opened again begins with what was said when it ended before.
  const [said, setSaid] = useState<Said>(() => ({
    closedOn: today,
    value: deal.value === undefined ? null : Number(deal.value),
    wonReasons: (deal.wonReasons as string[] | null) ?? [],
    wonBecause: String(deal.wonBecause ?? ''),
    lossReason: (deal.lossReason as string | null) ?? undefined,
    lossComment: String(deal.lossComment ?? ''),
    lostTo: (deal.lostTo as string | null) ?? null,
    tryAgainOn: null,
  }));
  const write = useWrite();
  const say = (part: Partial<Said>) => setSaid({ ...said, ...part });
  const field = (key: string) => fieldOf(catalogue, 'deal', key) as Field;
  const [label, isReady] = labelOf(deal, ending, said, today);
  const save = () => {
    if (!isReady || write.isPending) return;
    const { closedOn, value, wonReasons, wonBecause, lossReason, lossComment, lostTo, tryAgainOn } = said;
    const body =
      ending === 'win'
        ? { closedOn, wonReasons, wonBecause, ...(value === null ? {} : { value }) }
        : { closedOn, lossReason, lossComment, lostTo, tryAgainOn };
    write.mutate(
      { method: 'POST', path: `${pathOf('deal', deal.id)}/${ending}`, version: deal.version, body },
      { onSuccess: close },
    );
  };
  const day = (key: 'closedOn' | 'tryAgainOn', name: string) => (
    <Part label={name}>
      <FieldInput
        field={{ ...field(key), label: name }}
        value={said[key]}
        onChange={(value: FieldValue) => say({ [key]: value })}
      />
    </Part>
  );
  const created = dayIn(organisation.timeZone, deal.createdAt);
  return (
    <InlineForm
      className="close-deal"
      name={`Close deal: ${String(deal.name)}`}
      save={save}
      close={close}
      label={label}
      isBusy={write.isPending}
      isReady={isReady}
    >
      <Segmented<Ending | ''>
        value={ending ?? ''}
        options={[
          { value: 'win', label: 'Won' },
          { value: 'lose', label: 'Lost' },
        ]}
        onChange={(chosen) => chosen && setEnding(chosen)}
        aria-label="How it ended"
      />
      {ending === 'win' && (
        <>
          <Part label="Because of">
            <SeveralReasons
              autoFocus
              list="winReason"
              reasons={offered(field('wonReasons').choices)}
              all={field('wonReasons').choices}
              value={said.wonReasons}
              onChange={(wonReasons) => say({ wonReasons })}
            />
          </Part>
          <div className="close-pair">
            {deal.value !== undefined && (
              <Part label="Final value">
                <FieldInput
                  id="value"
                  field={field('value')}
                  currency={String(deal.currency)}
                  value={said.value}
                  onChange={(value: FieldValue) => say({ value: value === null ? null : Number(value) })}
                />
              </Part>
            )}
            {day('closedOn', 'Won on')}
          </div>
          <Part label="Comment">
            <Input
              id="wonBecause"
              value={said.wonBecause}
              maxLength={200}
              aria-label="Comment on the win"
              onChange={({ target }) => say({ wonBecause: target.value })}
            />
          </Part>
        </>
      )}
      {ending === 'lose' && (
        <>
          <Part label="Because of">
            <ReasonChips
              autoFocus
              list="lossReason"
              reasons={offered(field('lossReason').choices)}
              all={field('lossReason').choices}
              value={said.lossReason}
              onChange={(lossReason) => say({ lossReason })}
            />
          </Part>
          <Part label="Comment">
            <Input.TextArea
              autoSize={{ minRows: 1, maxRows: 5 }}
              value={said.lossComment}
              maxLength={2000}
              aria-label="Comment on the loss"
              onChange={({ target }) => say({ lossComment: target.value })}
            />
          </Part>
          <div className="close-pair">
            <Part label="Lost to">
              <ChoiceSelect
                list="competitor"
                all={field('lostTo').choices ?? []}
                value={said.lostTo}
                label="Lost to"
                onChange={(lostTo) => say({ lostTo })}
              />
            </Part>
            {day('closedOn', 'Lost on')}
            {day('tryAgainOn', 'Try again on')}
          </div>
        </>
      )}
      {ending && said.closedOn !== null && said.closedOn < created && (
        <p className="attention">
          The deal was created {nearDate(created, today)}; it cannot have ended before.
        </p>
      )}
    </InlineForm>
  );
}
