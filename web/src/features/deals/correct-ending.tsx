import { type AnyRecord } from '@zawn/core';
import { useState } from 'react';
import { pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { InlineForm } from '../../platform/frame/inline-form';
import { useSession } from '../../platform/sessions/session';
import { ClosingFields, closingOf, missingOf, saidIn, type Ending } from './closing-fields';
import './close-deal.css';

interface Props {
  deal: AnyRecord;
  close: () => void;
}

/** Says anew how a closed deal ended: which way stays, and so does a call that was planned to try again. */
export default function CorrectEnding({ deal, close }: Props) {
  const { today } = useSession();
  const ending: Ending = deal.outcome === 'won' ? 'win' : 'lose';
  const [said, setSaid] = useState(() => saidIn(deal, today));
  const write = useWrite();
  const closing = closingOf(ending, said, today);
  const save = () => {
    if (!closing || write.isPending) return;
    const { closedOn } = closing;
    const body =
      closing.outcome === 'won'
        ? { closedOn, wonReasons: closing.wonReasons, wonBecause: closing.wonBecause }
        : {
            closedOn,
            lossReason: closing.lossReason,
            lossComment: closing.lossComment,
            lostTo: closing.lostTo,
          };
    const path = `${pathOf('deal', deal.id)}/ending`;
    write.mutate({ method: 'POST', path, version: deal.version, body }, { onSuccess: close });
  };
  return (
    <InlineForm
      className="close-deal"
      name={`How it ended: ${String(deal.name)}`}
      save={save}
      close={close}
      label={missingOf(ending, said, today) ?? 'Save how it ended'}
      isBusy={write.isPending}
      isReady={closing !== undefined}
    >
      <ClosingFields ending={ending} said={said} say={(part) => setSaid({ ...said, ...part })} />
    </InlineForm>
  );
}
