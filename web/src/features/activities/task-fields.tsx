import { fieldOf, type ActivityPart, type Catalogue } from '@zawn/core';
import { Input, Select } from 'antd';
import { useSession } from '../../platform/sessions/session';
import { SubjectsInput } from '../../kernel/records/subjects-input';
import { StepsInput } from './steps-input';
import { type TaskDetails } from './task-details';
import './activities.css';

/** Whether activities of a type have a place, or others who attend. */
export function hasPart(catalogue: Catalogue, kind: string, part: ActivityPart): boolean {
  const type = fieldOf(catalogue, 'activity', 'kind')?.choices?.find(({ key }) => key === kind);
  return type?.has?.includes(part) ?? false;
}

interface Props {
  kind: string;
  value: TaskDetails;
  onChange: (value: TaskDetails) => void;
  canTick?: boolean;
}

/** Priority, description, steps, and what or whom else it is about. */
export function TaskFields({ kind, value, onChange, canTick }: Props) {
  const { catalogue } = useSession();
  const set = (part: Partial<TaskDetails>) => onChange({ ...value, ...part });
  const priorities = fieldOf(catalogue, 'activity', 'priority')?.choices ?? [];
  const attends = hasPart(catalogue, kind, 'attendees');
  return (
    <div className="task-fields">
      {hasPart(catalogue, kind, 'place') && (
        <Input
          value={value.place}
          onChange={({ target }) => set({ place: target.value })}
          placeholder="Place"
          aria-label="Place"
          maxLength={200}
        />
      )}
      <SubjectsInput
        value={value.alsoAbout}
        onChange={(alsoAbout) => set({ alsoAbout })}
        label={attends ? 'Who else attends' : 'Also about'}
        placeholder={attends ? 'Who else attends' : 'Also about: other people, accounts, deals'}
      />
      <StepsInput steps={value.steps} onChange={(steps) => set({ steps })} canTick={canTick ?? false} />
      <Input.TextArea
        autoSize={{ minRows: 1, maxRows: 8 }}
        value={value.description}
        onChange={({ target }) => set({ description: target.value })}
        placeholder="Description"
        aria-label="Description"
        maxLength={20_000}
      />
      <Select
        value={value.priority ?? 'normal'}
        options={priorities.map(({ key, label }) => ({ value: key, label: `${label} priority` }))}
        onChange={(priority: string) => set({ priority })}
        aria-label="Priority"
      />
    </div>
  );
}
