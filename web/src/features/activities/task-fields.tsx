import { fieldOf } from '@zawn/core';
import { Input, Select } from 'antd';
import { useSession } from '../../platform/sessions/session';
import { PlaceAndAttendees } from './place-and-attendees';
import { StepsInput } from './steps-input';
import { type TaskDetails } from './task-details';
import './activities.css';

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
  return (
    <div className="task-fields">
      <PlaceAndAttendees kind={kind} value={value} onChange={onChange} isAlsoAbout />
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
