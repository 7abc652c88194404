import { type AnyRecord } from '@zawn/core';
import { Select } from 'antd';
import { useState } from 'react';
import { pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { InlineForm } from '../../platform/frame/inline-form';
import { peopleToChoose } from '../../platform/sessions/people-to-choose';
import { useSession } from '../../platform/sessions/session';
import { useWhen, whenInWords, WhenInput } from './when-input';

interface Props {
  activity: AnyRecord;
  close: () => void;
}

/** Moves something planned to another day or time, or hands it to a colleague, or both. */
export function MoveForm({ activity, close }: Props) {
  const { people, person } = useSession();
  const [words, setWords] = useState('');
  const [owner, setOwner] = useState(Number(activity.owner));
  const write = useWrite();
  const when = useWhen(words);
  // A day alone leaves the time as it is.
  const due = when && { dueOn: when.dueOn, dueAt: when.dueAt ?? (activity.dueAt as string | null) };
  const isHanded = owner !== activity.owner;
  const isReady = (due !== undefined || isHanded) && (words.trim() === '' || due !== undefined);
  const to = person(owner)?.name ?? '';
  const label = due
    ? `Move to ${whenInWords(due)}${isHanded ? `, hand to ${to}` : ''}`
    : isHanded
      ? `Hand to ${to}`
      : 'Say when, or to whom';
  const save = () => {
    if (!isReady) return;
    write.mutate(
      {
        method: 'PATCH',
        path: pathOf('activity', activity.id),
        version: activity.version,
        body: { ...due, ...(isHanded ? { owner } : {}) },
      },
      { onSuccess: close },
    );
  };
  return (
    <InlineForm
      className="done-form move-form"
      name={`Move: ${String(activity.name)}`}
      save={save}
      close={close}
      label={label}
      isBusy={write.isPending}
      isReady={isReady}
    >
      <WhenInput autoFocus value={words} onChange={setWords} />
      <Select
        value={owner}
        options={peopleToChoose(people, activity.owner)}
        showSearch={{ optionFilterProp: 'label' }}
        onChange={setOwner}
        aria-label="Whose it is"
      />
    </InlineForm>
  );
}
