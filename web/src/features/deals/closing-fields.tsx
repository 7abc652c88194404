import { fieldOf, offered, type AnyRecord, type DealClosing, type Field, type FieldValue } from '@zawn/core';
import { Input, Segmented } from 'antd';
import { type ReactNode } from 'react';
import { ChoiceSelect } from '../../kernel/records/choice-select';
import { FieldInput } from '../../kernel/records/field-input';
import { ReasonChips, SeveralReasons } from '../../kernel/records/reason-chips';
import { useSession } from '../../platform/sessions/session';
import './close-deal.css';

export type Ending = 'win' | 'lose';

/** What is said about the end of a deal, of both ways it can take. */
export interface SaidOfEnd {
  closedOn: string | null;
  wonReasons: string[];
  wonBecause: string;
  lossReason?: string;
  lossComment: string;
  lostTo: string | null;
  tryAgainOn: string | null;
}

/** What is said as long as nobody has said anything. */
export const nothingSaid = (today: string): SaidOfEnd => ({
  closedOn: today,
  wonReasons: [],
  wonBecause: '',
  lossComment: '',
  lostTo: null,
  tryAgainOn: null,
});

/** What stands in a deal about its end: nothing yet, or what was said when it ended, before it was opened again too. */
export const saidIn = (deal: AnyRecord, today: string): SaidOfEnd => ({
  ...nothingSaid(today),
  ...(deal.closedOn ? { closedOn: String(deal.closedOn) } : {}),
  wonReasons: (deal.wonReasons as string[] | null) ?? [],
  wonBecause: String(deal.wonBecause ?? ''),
  lossReason: (deal.lossReason as string | null) ?? undefined,
  lossComment: String(deal.lossComment ?? ''),
  lostTo: (deal.lostTo as string | null) ?? null,
});

/** What is said about the way it ended, as it is written; undefined while something is missing. */
export function closingOf(
  ending: Ending | undefined,
  said: SaidOfEnd,
  today: string,
): DealClosing | undefined {
  const { closedOn, wonReasons, wonBecause, lossReason, lossComment, lostTo, tryAgainOn } = said;
  if (!ending || !closedOn || closedOn > today) return undefined;
  if (ending === 'win') return { outcome: 'won', closedOn, wonReasons, wonBecause };
  return lossReason ? { outcome: 'lost', closedOn, lossReason, lossComment, lostTo, tryAgainOn } : undefined;
}

/** Why something cannot be closed yet; undefined where nothing is missing. */
export function missingOf(ending: Ending | undefined, said: SaidOfEnd, today: string): string | undefined {
  if (!ending) return 'Say how it ended';
  if (!said.closedOn || said.closedOn > today) return 'Say on which day, today at the latest';
  return ending === 'lose' && !said.lossReason ? 'Choose a reason' : undefined;
}

function Part({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="close-part" role="group" aria-label={label}>
      <span className="close-label">{label}</span>
      {children}
    </div>
  );
}

interface Props {
  ending: Ending | undefined;
  /** Chooses how it ended; left out where it has ended, and only what was said about that is said anew. */
  end?: (ending: Ending) => void;
  said: SaidOfEnd;
  say: (part: Partial<SaidOfEnd>) => void;
  /** The value of one deal that is won. */
  finalValue?: { value: number | null; currency: string; change: (value: number | null) => void } | undefined;
}

/** What is asked about the end of a deal: how it ended, the reasons, the day and what else there is to say. */
export function ClosingFields({ ending, end, said, say, finalValue }: Props) {
  const { catalogue } = useSession();
  const field = (key: string) => fieldOf(catalogue, 'deal', key) as Field;
  const day = (key: 'closedOn' | 'tryAgainOn', name: string) => (
    <Part label={name}>
      <FieldInput
        field={{ ...field(key), label: name }}
        value={said[key]}
        onChange={(value: FieldValue) => say({ [key]: value })}
      />
    </Part>
  );
  return (
    <>
      {end && (
        <Segmented<Ending | ''>
          value={ending ?? ''}
          options={[
            { value: 'win', label: 'Won' },
            { value: 'lose', label: 'Lost' },
          ]}
          onChange={(chosen) => chosen && end(chosen)}
          aria-label="How it ended"
        />
      )}
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
            {finalValue && (
              <Part label="Final value">
                <FieldInput
                  id="value"
                  field={field('value')}
                  currency={finalValue.currency}
                  value={finalValue.value}
                  onChange={(value: FieldValue) => finalValue.change(value === null ? null : Number(value))}
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
            {end && day('tryAgainOn', 'Try again on')}
          </div>
        </>
      )}
    </>
  );
}
