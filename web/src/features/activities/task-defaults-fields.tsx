import { fieldOf, type TaskDefaults } from '@zawn/core';
import { Input, Select } from 'antd';
import { useId } from 'react';
import { KeptText } from '../../platform/frame/kept-field';
import { peopleToChoose } from '../../platform/sessions/people-to-choose';
import { useSession } from '../../platform/sessions/session';
import { usePreferences } from '../../platform/sessions/use-preferences';
import { useFirstWhen } from './first-when';
import { useWhen, whenInWords } from './when-input';

/** What a new task of one's own begins with. Each is kept as soon as it is said. */
export function TaskDefaultsFields() {
  const { catalogue, people, me } = useSession();
  const [{ taskDefaults }, setPreferences] = usePreferences();
  const first = useFirstWhen();
  const id = useId();
  const now = taskDefaults ?? {};
  const due = useWhen(now.when ?? first);
  const keep = (part: { [K in keyof TaskDefaults]: TaskDefaults[K] | null }) =>
    void setPreferences({
      taskDefaults: Object.fromEntries(
        Object.entries({ ...now, ...part }).filter(([, value]) => value !== null),
      ),
    });
  const priorities = fieldOf(catalogue, 'activity', 'priority')?.choices ?? [];
  return (
    <section aria-label="A new task">
      <h2>A new task</h2>
      <div className="profile-line">
        <label htmlFor={`${id}-name`}>Is called</label>
        <KeptText
          id={`${id}-name`}
          value={now.name ?? null}
          placeholder="Follow up with {name}"
          maxLength={200}
          keep={(name) => keep({ name })}
        />
      </div>
      <p className="second">{'{name}'} is the name of the record it is planned on.</p>
      <div className="profile-line">
        <label htmlFor={`${id}-when`}>Is due</label>
        <KeptText
          id={`${id}-when`}
          value={now.when ?? null}
          placeholder={first}
          maxLength={60}
          status={due ? '' : 'error'}
          suffix={
            <span className={due ? 'second' : 'attention late'}>
              {due ? `today that is ${whenInWords(due)}` : 'no day or time'}
            </span>
          }
          keep={(when) => keep({ when })}
        />
      </div>
      <div className="profile-line">
        <label htmlFor={`${id}-owner`}>Is for</label>
        <Select
          id={`${id}-owner`}
          value={now.owner ?? me.id}
          options={peopleToChoose(people, now.owner)}
          showSearch={{ optionFilterProp: 'label' }}
          onChange={(owner) => keep({ owner: owner === me.id ? null : owner })}
        />
      </div>
      <div className="profile-line">
        <label htmlFor={`${id}-priority`}>Priority</label>
        <Select
          id={`${id}-priority`}
          value={now.priority ?? 'normal'}
          options={priorities.map(({ key, label }) => ({ value: key, label }))}
          onChange={(priority: string) => keep({ priority: priority === 'normal' ? null : priority })}
        />
      </div>
      <div className="profile-line">
        <label htmlFor={`${id}-description`}>Description</label>
        <Input.TextArea
          id={`${id}-description`}
          key={now.description}
          defaultValue={now.description}
          autoSize={{ minRows: 2, maxRows: 8 }}
          maxLength={5000}
          onBlur={({ target }) => {
            if (target.value !== (now.description ?? '')) keep({ description: target.value.trim() || null });
          }}
        />
      </div>
    </section>
  );
}
