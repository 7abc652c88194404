import { type SubjectKey } from '@zawn/core';
import { Input, Select } from 'antd';
import { lazy, Suspense, useState } from 'react';
import { useWrite } from '../../platform/api/use-write';
import { InlineForm } from '../../platform/frame/inline-form';
import { useSession } from '../../platform/sessions/session';
import { peopleToChoose } from '../../platform/sessions/people-to-choose';
import { useKinds } from './kinds';
import { useFirstWhen, useWhen, WhenInput, whenInWords } from './when-input';
import './plan-form.css';

const RepeatInput = lazy(() => import('./repeat-input'));

interface Props {
  /** The record it is about. */
  on: { object: SubjectKey; id: number };
  close: () => void;
  /** What is to be done, as far as that is known already. */
  what?: string;
  className?: string;
}

/** Plans what is to be done about a record: what, by whom, and when, in words. */
export function PlanForm({ on: { object, id }, close, what = '', className }: Props) {
  const { me, people, today } = useSession();
  const [name, setName] = useState(what);
  const [kind, setKind] = useState('task');
  const [words, setWords] = useState(useFirstWhen());
  const [owner, setOwner] = useState(me.id);
  const [repeats, setRepeats] = useState({ words: '', isUnderstood: true });
  const when = useWhen(words);
  const write = useWrite();
  const isReady = name.trim() !== '' && when !== undefined && repeats.isUnderstood;
  const save = () => {
    if (!when || !isReady) return;
    const again = repeats.words.trim() ? { repeats: repeats.words.trim() } : {};
    const body = { name, kind, ...when, ...again, owner, [object]: id };
    write.mutate({ method: 'POST', path: '/activities', body }, { onSuccess: close });
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
          onChange={(event) => setName(event.target.value)}
          placeholder="What is to be done"
          aria-label="What"
          maxLength={200}
        />
      </div>
      <div className="plan-line plan-when">
        <WhenInput value={words} onChange={setWords} />
        <Select
          value={owner}
          onChange={setOwner}
          aria-label="Who"
          showSearch={{ optionFilterProp: 'label' }}
          options={peopleToChoose(people)}
        />
      </div>
      <Suspense>
        <RepeatInput
          words={repeats.words}
          from={when?.dueOn ?? today}
          onChange={(typed, isUnderstood) => setRepeats({ words: typed, isUnderstood })}
        />
      </Suspense>
    </InlineForm>
  );
}
