import { type SubjectKey } from '@zawn/core';
import { useQuery } from '@tanstack/react-query';
import { Input, Segmented, Select } from 'antd';
import { useState } from 'react';
import { oneRecord } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { InlineForm } from '../../platform/frame/inline-form';
import { useSession } from '../../platform/sessions/session';
import { peopleToChoose } from '../../platform/sessions/people-to-choose';
import { useKinds } from './kinds';
import { NO_DETAILS, writtenDetails } from './task-details';
import { useTaskDefaults } from './task-defaults';
import { useWhen, WhenInput, whenInWords } from './when-input';
import './plan-form.css';
import { lazyPart } from '../../platform/frame/lazy-part';

const RepeatInput = lazyPart(async () => (await import('./repeat-input')).default);
const TaskFields = lazyPart(async () => (await import('./task-fields')).TaskFields);

interface Props {
  /** The record it is about. */
  on: { object: SubjectKey; id: number };
  close: () => void;
  /** What is to be done, as far as that is known already. */
  what?: string;
  className?: string;
}

/** Plans what is to be done about a record: what, by whom, and when, in words; the rest on demand. */
export function PlanForm({ on: { object, id }, close, what, className }: Props) {
  const { people, today } = useSession();
  const defaults = useTaskDefaults();
  const { data } = useQuery(oneRecord(object, id));
  // Until something else is typed it is called as one has it.
  const [typed, setTyped] = useState(what);
  const name = typed ?? defaults.nameFor(data?.record);
  const [kind, setKind] = useState('task');
  const [words, setWords] = useState(defaults.when);
  const [owners, setOwners] = useState([defaults.owner]);
  const [doneWhen, setDoneWhen] = useState<'all' | 'one'>('all');
  const [repeats, setRepeats] = useState({ words: '', isUnderstood: true });
  const [details, setDetails] = useState({
    ...NO_DETAILS,
    priority: defaults.priority,
    description: defaults.description,
  });
  const [isMore, setMore] = useState(false);
  const when = useWhen(words);
  const write = useWrite();
  const isReady = name.trim() !== '' && when !== undefined && repeats.isUnderstood && owners.length > 0;
  const save = () => {
    if (!when || !isReady) return;
    const again = repeats.words.trim() ? { repeats: repeats.words.trim() } : {};
    const activity = { name, kind, ...when, ...again, ...writtenDetails(details), [object]: id };
    write.mutate(
      owners.length > 1
        ? { method: 'POST', path: '/activities/together', body: { activity, people: owners, doneWhen } }
        : { method: 'POST', path: '/activities', body: { ...activity, owner: owners[0] } },
      { onSuccess: close },
    );
  };
  return (
    <InlineForm
      save={save}
      close={close}
      label={when ? `Plan for ${whenInWords(when)}` : 'Plan'}
      isBusy={write.isPending}
      isReady={isReady}
      className={className}
    >
      <div className="plan-line">
        <Select value={kind} options={useKinds()} onChange={setKind} aria-label="Type" />
        <Input
          autoFocus
          value={name}
          onChange={(event) => setTyped(event.target.value)}
          placeholder="What is to be done"
          aria-label="What"
          maxLength={200}
        />
      </div>
      <div className="plan-line plan-when">
        <WhenInput value={words} onChange={setWords} />
        <Select
          mode="multiple"
          value={owners}
          onChange={setOwners}
          aria-label="Who"
          placeholder="Who"
          status={owners.length === 0 ? 'error' : ''}
          showSearch={{ optionFilterProp: 'label' }}
          options={peopleToChoose(people)}
        />
      </div>
      {owners.length > 1 && (
        <Segmented
          value={doneWhen}
          onChange={setDoneWhen}
          aria-label="Done when"
          options={[
            { value: 'all', label: 'Done when everyone has done it' },
            { value: 'one', label: 'Done when one of them has' },
          ]}
        />
      )}
      <RepeatInput
        words={repeats.words}
        from={when?.dueOn ?? today}
        onChange={(typedWords, isUnderstood) => setRepeats({ words: typedWords, isUnderstood })}
      />
      {isMore ? (
        <TaskFields kind={kind} value={details} onChange={setDetails} />
      ) : (
        <button type="button" className="link-button plan-more" onClick={() => setMore(true)}>
          Steps, description, priority, who or what else
        </button>
      )}
    </InlineForm>
  );
}
