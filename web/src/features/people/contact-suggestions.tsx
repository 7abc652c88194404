import { useQuery } from '@tanstack/react-query';
import { ask, fieldOf, type AnyRecord, type Condition } from '@zawn/core';
import { Button } from 'antd';
import { allRecords, pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { useOpening } from '../../platform/frame/opening';
import { type SheetProps } from '../../kernel/shell/feature';
import { useSession } from '../../platform/sessions/session';

const SHOWN = 5;

const openSuggestions = (...conditions: (Condition | undefined)[]) =>
  ask('contactSuggestion', { field: 'state', is: 'anyOf', value: ['open'] }, ...conditions);

const personOf = (suggestion: AnyRecord) =>
  suggestion.contact === null
    ? { object: 'lead' as const, id: Number(suggestion.lead) }
    : { object: 'contact' as const, id: Number(suggestion.contact) };

/** Take a suggestion over, or leave the record as it is. */
function Decide({ suggestion, words }: { suggestion: AnyRecord; words: string }) {
  const write = useWrite();
  const decide = (action: 'take' | 'leave') =>
    write.mutate({ method: 'POST', path: `${pathOf('contactSuggestion', suggestion.id)}/${action}` });
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
  return (suggestion: AnyRecord) => {
    const label = fieldOf(catalogue, personOf(suggestion).object, String(suggestion.field))?.label ?? '';
    return `${label.toLowerCase()} ${String(suggestion.value)}`;
  };
}

/** What the signature of an email says of this person that is not on file. */
export function ContactSuggestions({ object, record: { id } }: Pick<SheetProps, 'object' | 'record'>) {
  const words = useWords();
  const { data } = useQuery(allRecords(openSuggestions({ field: object, is: 'anyOf', value: [id] })));
  return data?.rows.map((suggestion) => (
    <p key={suggestion.id} className="record-line contact-suggestion">
      <span>
        Signs with <b>{words(suggestion)}</b>
      </span>
      <Decide suggestion={suggestion} words={words(suggestion)} />
    </p>
  ));
}

/** The same for everybody of one’s own, on the day’s list. */
export function SuggestionsOnToday({ owner }: { owner: number }) {
  const words = useWords();
  const { open } = useOpening();
  const ofMine = (object: string): Condition => ({ field: `${object}.owner`, is: 'anyOf', value: [owner] });
  const { data } = useQuery(
    allRecords(openSuggestions({ join: 'any', of: [ofMine('contact'), ofMine('lead')] })),
  );
  if (!data || data.rows.length === 0) return null;
  return (
    <section className="concern" aria-label="Seen in signatures">
      <h3>
        {data.total} {data.total === 1 ? 'detail' : 'details'} seen in signatures
      </h3>
      <ul className="touches">
        {data.rows.slice(0, SHOWN).map((suggestion) => {
          const { object, id } = personOf(suggestion);
          return (
            <li key={suggestion.id}>
              <span className="clip">
                <button type="button" className="link-button" onClick={() => open(object, id)}>
                  {data.names[object]?.[id]}
                </button>{' '}
                <span className="second">{words(suggestion)}</span>
              </span>
              <Decide suggestion={suggestion} words={words(suggestion)} />
            </li>
          );
        })}
      </ul>
    </section>
  );
}
