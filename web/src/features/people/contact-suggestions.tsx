import { useQuery } from '@tanstack/react-query';
import { ask, fieldOf, type AnyRecord, type Condition } from '@zawn/core';
import { Button } from 'antd';
import { allRecords, pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { type SheetProps } from '../../kernel/shell/feature';
import { useSession } from '../../platform/sessions/session';

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

/** The same for everybody of one’s own: the first of them with others that are wanted, and how many there are. */
export function useSuggestions(shown: number, isWanted: (id: number) => boolean) {
  const { me } = useSession();
  const words = useWords();
  const write = useWrite();
  const ofMine = (object: string): Condition => ({ field: `${object}.owner`, is: 'anyOf', value: [me.id] });
  const { data } = useQuery(
    allRecords(openSuggestions({ join: 'any', of: [ofMine('contact'), ofMine('lead')] })),
  );
  const wanted = (data?.rows ?? []).filter(({ id }, index) => index < shown || isWanted(id));
  const suggestions = wanted.map((suggestion) => {
    const on = personOf(suggestion);
    return {
      id: suggestion.id,
      on,
      name: data?.names[on.object]?.[on.id] ?? '',
      words: words(suggestion),
      decide: (action: 'take' | 'leave') =>
        write.mutate({ method: 'POST', path: `${pathOf('contactSuggestion', suggestion.id)}/${action}` }),
    };
  });
  return { total: data?.total ?? 0, suggestions };
}
