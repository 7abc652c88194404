import { useQuery } from '@tanstack/react-query';
import { ask, choiceLabel, fieldOf } from '@zawn/core';
import { allRecords } from '../../platform/api/queries';
import { useOpening } from '../../platform/frame/opening';
import { type SheetProps } from '../../kernel/shell/feature';
import { useSession } from '../../platform/sessions/session';

/** The deals that a contact has a part in, with the part. */
export default function PartInDeals({ record: { id } }: SheetProps) {
  const { catalogue, stage } = useSession();
  const { open } = useOpening();
  const { data } = useQuery(
    allRecords({
      ...ask('dealContact', { field: 'contact', is: 'anyOf', value: [id] }),
      columns: ['deal.outcome', 'deal.stage'],
    }),
  );
  const parts = (data?.rows ?? []).filter(({ deal }) => data?.names.deal?.[Number(deal)] !== undefined);
  if (parts.length === 0) return null;
  const role = fieldOf(catalogue, 'dealContact', 'role');
  return (
    <div className="related">
      <h3>Part in deals {parts.length}</h3>
      <ul className="record-links">
        {parts.map((part) => (
          <li key={part.id}>
            <button
              type="button"
              className="link-button clip"
              onClick={() => open('deal', Number(part.deal))}
            >
              {data?.names.deal?.[Number(part.deal)]}
            </button>
            <span className="record-links-under">
              {choiceLabel(role, String(part.role))} ·{' '}
              {part['deal.outcome'] === 'open'
                ? stage(part['deal.stage'])?.name
                : String(part['deal.outcome'])}
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}
