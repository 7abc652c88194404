import { dayIn, type AnyRecord, type DealClosing } from '@zawn/core';
import { useState } from 'react';
import { pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { nearDate, money } from '../../platform/frame/format';
import { InlineForm } from '../../platform/frame/inline-form';
import { useSession } from '../../platform/sessions/session';
import { ClosingFields, closingOf, missingOf, saidIn, type Ending, type SaidOfEnd } from './closing-fields';
import './close-deal.css';

interface Props {
  deal: AnyRecord;
  /** How it ended, where that is known already. */
  ending?: Ending;
  close: () => void;
}

/** What is missing before it can be closed, and otherwise what closing it will say. */
function labelOf(
  deal: AnyRecord,
  value: number | null,
  missing: string | undefined,
  closing: DealClosing | undefined,
): [string, boolean] {
  if (!closing) return [missing ?? '', false];
  if (closing.outcome === 'lost') return ['Close as lost', true];
  if (deal.value === undefined) return ['Close as won', true];
  return value === null
    ? ['Enter the final value', false]
    : [`Close as won at ${money(value, String(deal.currency))}`, true];
}

/** Closes a deal where it stands: won at its final value, or lost for a reason of the list. */
export default function CloseDeal({ deal, ending: known, close }: Props) {
  const { today, organisation } = useSession();
  const [ending, setEnding] = useState(known);
  const [value, setValue] = useState(deal.value === undefined ? null : Number(deal.value));
  const [said, setSaid] = useState(() => saidIn(deal, today));
  const write = useWrite();
  const say = (part: Partial<SaidOfEnd>) => setSaid({ ...said, ...part });
  const closing = closingOf(ending, said, today);
  const [label, isReady] = labelOf(deal, value, missingOf(ending, said, today), closing);
  const save = () => {
    if (!isReady || !closing || write.isPending) return;
    const { outcome, ...words } = closing;
    const isWon = outcome === 'won';
    const body = isWon && value !== null ? { ...words, value } : words;
    write.mutate(
      {
        method: 'POST',
        path: `${pathOf('deal', deal.id)}/${isWon ? 'win' : 'lose'}`,
        version: deal.version,
        body,
      },
      { onSuccess: close },
    );
  };
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
      <ClosingFields
        ending={ending}
        end={setEnding}
        said={said}
        say={say}
        finalValue={
          deal.value === undefined ? undefined : { value, currency: String(deal.currency), change: setValue }
        }
      />
      {ending && said.closedOn !== null && said.closedOn < created && (
        <p className="attention">
          The deal was created {nearDate(created, today)}; it cannot have ended before.
        </p>
      )}
    </InlineForm>
  );
}
