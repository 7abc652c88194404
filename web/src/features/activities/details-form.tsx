import { useQuery } from '@tanstack/react-query';
import { ask, subjectKeys, type AnyRecord, type GivenTogether, type Names } from '@zawn/core';
import { Checkbox, Input, Select } from 'antd';
import { useState } from 'react';
import { call } from '../../platform/api/client';
import { allRecords, pathOf, RECORDS } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { InlineForm } from '../../platform/frame/inline-form';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { type Subject } from '../../kernel/records/subjects-input';
import { useKinds } from './kinds';
import { writtenDetails, type TaskDetails } from './task-details';
import { TaskFields } from './task-fields';
import './activities.css';
import './plan-form.css';

const partsOf = (object: 'checklistItem' | 'activityLink', activity: number) =>
  allRecords({
    ...ask(object, { field: 'activity', is: 'anyOf', value: [activity] }),
    sort: [{ field: 'position' }],
  });

/** Who else was given it, and whether they have done it. */
function Others({ activity }: { activity: AnyRecord }) {
  const { person } = useSession();
  const { data } = useQuery({
    queryKey: [RECORDS, 'together', activity.id],
    queryFn: ({ signal }) =>
      call<GivenTogether>('GET', `${pathOf('activity', activity.id)}/together`, { signal }),
  });
  const others = (data?.people ?? []).filter((each) => each.person !== activity.owner);
  if (others.length === 0) return null;
  const names = others.map(
    ({ person: id, isDone }) => `${person(id)?.name ?? 'Somebody'}${isDone ? ' (done)' : ''}`,
  );
  return (
    <p className="second">
      Given to {names.join(', ')} as well.{' '}
      {activity.doneWhen === 'one' ? 'Done when one of you has done it.' : 'Each does it.'}
    </p>
  );
}

interface Props {
  activity: AnyRecord;
  close: () => void;
}

/** Everything about a piece of work, changed where it stands: its steps ticked off as well. */
export function DetailsForm({ activity, close }: Props) {
  const steps = useQuery(partsOf('checklistItem', activity.id));
  const links = useQuery(partsOf('activityLink', activity.id));
  const error = steps.error ?? links.error;
  if (error)
    return <Trouble error={error} retry={() => void Promise.all([steps.refetch(), links.refetch()])} />;
  if (!steps.data || !links.data) return <Skeleton rows={3} />;
  return (
    <Fields
      activity={activity}
      close={close}
      steps={steps.data.rows}
      links={links.data.rows}
      about={subjectsIn(links.data.rows, links.data.names)}
    />
  );
}

const subjectsIn = (links: readonly AnyRecord[], names: Names): Subject[] =>
  links.flatMap((link) =>
    subjectKeys.flatMap((object) => {
      const id = link[object];
      return typeof id === 'number'
        ? [{ object, id, name: names[object]?.[id] ?? 'Not within your reach' }]
        : [];
    }),
  );

function Fields({
  activity,
  close,
  steps,
  links,
  about,
}: Props & { steps: readonly AnyRecord[]; links: readonly AnyRecord[]; about: readonly Subject[] }) {
  const [name, setName] = useState(String(activity.name));
  const [kind, setKind] = useState(String(activity.kind));
  const [isRepeated, setRepeated] = useState(activity.repeats !== null);
  const [details, setDetails] = useState<TaskDetails>({
    priority: activity.priority as string | null,
    description: String(activity.description ?? ''),
    place: String(activity.place ?? ''),
    steps: steps.map((step) => ({ id: step.id, name: String(step.name), done: step.done === true })),
    alsoAbout: [...about],
  });
  const write = useWrite();
  const isReady = name.trim() !== '';
  const save = () => {
    if (!isReady) return;
    const { alsoAbout, ...written } = writtenDetails(details);
    // What it was about already stays as it is, also where it is not within reach.
    const known = details.alsoAbout.map(({ object, id }) => links.find((link) => link[object] === id)?.id);
    const body = {
      ...written,
      name,
      kind,
      ...(isRepeated ? {} : { repeats: null }),
      alsoAbout: alsoAbout.map((link, at) => (known[at] === undefined ? link : { id: known[at], ...link })),
    };
    write.mutate(
      { method: 'PATCH', path: pathOf('activity', activity.id), version: activity.version, body },
      { onSuccess: close },
    );
  };
  return (
    <InlineForm
      className="done-form"
      name={`Details: ${String(activity.name)}`}
      save={save}
      close={close}
      label="Save"
      isBusy={write.isPending}
      isReady={isReady}
    >
      <Others activity={activity} />
      <div className="plan-line">
        <Select value={kind} options={useKinds()} onChange={setKind} aria-label="Type" />
        <Input
          autoFocus
          value={name}
          onChange={({ target }) => setName(target.value)}
          aria-label="What"
          maxLength={200}
        />
      </div>
      <TaskFields kind={kind} value={details} onChange={setDetails} canTick />
      {activity.repeats !== null && (
        <Checkbox checked={!isRepeated} onChange={({ target }) => setRepeated(!target.checked)}>
          Do not repeat it any more
        </Checkbox>
      )}
    </InlineForm>
  );
}
