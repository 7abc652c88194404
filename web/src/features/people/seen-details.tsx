import { useQuery } from '@tanstack/react-query';
import { ask, fieldOf, type AnyRecord, type Condition } from '@zawn/core';
import { Button } from 'antd';
import { allRecords, pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { useOpening } from '../../platform/frame/opening';
import { type SheetProps } from '../../kernel/shell/feature';
import { useSession } from '../../platform/sessions/session';

const SHOWN = 5;

const openDetails = (...conditions: (Condition | undefined)[]) =>
  ask('detail', { field: 'state', is: 'anyOf', value: ['open'] }, ...conditions);

const personOf = (detail: AnyRecord) =>
  detail.contact === null
    ? { object: 'lead' as const, id: Number(detail.lead) }
    : { object: 'contact' as const, id: Number(detail.contact) };

/** Take a detail over, or leave the record as it is. */
function Decide({ detail, words }: { detail: AnyRecord; words: string }) {
  const write = useWrite();
  const decide = (action: 'take' | 'leave') =>
    write.mutate({ method: 'POST', path: `${pathOf('detail', detail.id)}/${action}` });
  return (
    <span className="touch-actions">
      <Button size="small" aria-label={`Take over: ${words}`} onClick={() => decide('take')}>
        Take over
      </Button>
      <Button size="small" type="text" aria-label={`Leave: ${words}`} onClick={() => decide('leave')}>
        Leave
      </Button>
    </span>
  );
}

function useWords() {
  const { catalogue } = useSession();
  return (detail: AnyRecord) => {
    const label = fieldOf(catalogue, personOf(detail).object, String(detail.field))?.label ?? '';
    return `${label.toLowerCase()} ${String(detail.value)}`;
  };
}

/** What the signature of an email says of this person that is not on file. */
export function SeenDetails({ object, record: { id } }: Pick<SheetProps, 'object' | 'record'>) {
  const words = useWords();
  const { data } = useQuery(allRecords(openDetails({ field: object, is: 'anyOf', value: [id] })));
  return data?.rows.map((detail) => (
    <p key={detail.id} className="record-line seen-detail">
      <span>
        Signs with <b>{words(detail)}</b>
      </span>
      <Decide detail={detail} words={words(detail)} />
    </p>
  ));
}

/** The same for everybody of one’s own, on the day’s list. */
export function SeenOnToday({ owner }: { owner: number }) {
  const words = useWords();
  const { open } = useOpening();
  const ofMine = (object: string): Condition => ({ field: `${object}.owner`, is: 'anyOf', value: [owner] });
  const { data } = useQuery(
    allRecords(openDetails({ join: 'any', of: [ofMine('contact'), ofMine('lead')] })),
  );
  if (!data || data.rows.length === 0) return null;
  return (
    <section className="concern" aria-label="Seen in signatures">
      <h3>
        {data.total} {data.total === 1 ? 'detail' : 'details'} seen in signatures
      </h3>
      <ul className="touches">
        {data.rows.slice(0, SHOWN).map((detail) => {
          const { object, id } = personOf(detail);
          return (
            <li key={detail.id}>
              <span className="clip">
                <button type="button" className="link-button" onClick={() => open(object, id)}>
                  {data.names[object]?.[id]}
                </button>{' '}
                <span className="second">{words(detail)}</span>
              </span>
              <Decide detail={detail} words={words(detail)} />
            </li>
          );
        })}
      </ul>
    </section>
  );
}
