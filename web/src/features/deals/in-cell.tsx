import { type CellPartProps } from '../../kernel/shell/feature';
import { useSession } from '../../platform/sessions/session';
import { GuidePart } from '../guides/guide-part';
import { useGuide } from '../guides/use-guide';
import CloseDeal from './close-deal';
import CorrectEnding from './correct-ending';
import { WhoDecides } from './who-decides';

/** Closes a deal from where a table says that it is open, or says anew how it ended. */
export function EndingInCell({ record, close }: CellPartProps) {
  const { policy } = useSession();
  if (!policy.may('closeDeals')) return <p>You may not win, lose or reopen deals.</p>;
  const Form = record.outcome === 'open' ? CloseDeal : CorrectEnding;
  return <Form deal={record} close={close} />;
}

/** Names who decides over a deal from where a table says that nobody does. */
export const DeciderInCell = (sheet: CellPartProps) => <WhoDecides {...sheet} />;

/** Answers what the guide of a deal's stage asks from where a table says how far it is. */
export const GuideInCell = ({ close: _, ...sheet }: CellPartProps) => {
  const isAsked = sheet.record.outcome === 'open';
  const { data } = useGuide('deal', sheet.record, undefined, isAsked);
  if (!isAsked) return <p>Nothing is asked of a deal that has ended.</p>;
  if (data?.lines.length === 0) return <p>Its stage asks for nothing.</p>;
  return <GuidePart sheet={{ ...sheet, object: 'deal' }} isAsked showsBefore />;
};
