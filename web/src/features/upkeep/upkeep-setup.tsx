import { useQuery } from '@tanstack/react-query';
import {
  objectType,
  upkeepObjects,
  upkeepSettings,
  type Design,
  type UpkeepCheck,
  type UpkeepSetting,
} from '@zawn/core';
import { Button, Select, Switch } from 'antd';
import { Allowed } from '../../platform/sessions/allowed';
import { pathOf, savedViews } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { KeptNumber } from '../../platform/frame/kept-field';

type Kept = UpkeepCheck & { version: number };

/** One kind: whether it is looked for, from which limit on, and the way to remove one of one's own. */
function Setting({ setting }: { setting: UpkeepSetting }) {
  const write = useWrite();
  const { kind, limit } = setting;
  const check = setting.check as Kept | undefined;
  const isOwn = check !== undefined && check.kind === null;
  const say = (body: Partial<Pick<UpkeepCheck, 'off' | 'limit'>>) =>
    write.mutate(
      check
        ? { method: 'PATCH', path: pathOf('upkeepCheck', check.id), version: check.version, body }
        : { method: 'POST', path: pathOf('upkeepCheck'), body: { kind: kind.key, ...body } },
    );
  return (
    <li>
      <Switch
        size="small"
        checked={check?.off !== true}
        aria-label={`Look for: ${kind.label}`}
        onChange={(isOn) => say({ off: !isOn })}
      />
      <span className={check?.off === true ? 'second' : ''}>{kind.label}</span>
      {limit !== undefined && (
        <KeptNumber
          size="small"
          value={limit}
          min={1}
          max={3650}
          aria-label={`Limit of: ${kind.label}`}
          keep={(next) => say({ limit: next })}
        />
      )}
      {isOwn && (
        <Allowed object="upkeepCheck" to="delete">
          <Button
            size="small"
            type="text"
            onClick={() =>
              write.mutate({
                method: 'DELETE',
                path: pathOf('upkeepCheck', check.id),
                version: check.version,
              })
            }
          >
            Remove
          </Button>
        </Allowed>
      )}
    </li>
  );
}

/** What upkeep looks for: the kinds there are, their limits, and others made of saved views. */
export function UpkeepSetup({ checks }: { checks: readonly Kept[] }) {
  const { data: saved } = useQuery(savedViews);
  const write = useWrite();
  const views = (saved?.views ?? []).filter(({ object }) => upkeepObjects.includes(object));
  const add = (id: number) => {
    const view = views.find((each) => each.id === id);
    if (!view) return;
    const { question } = JSON.parse(view.design) as Design;
    write.mutate({
      method: 'POST',
      path: pathOf('upkeepCheck'),
      body: { label: view.name, question: JSON.stringify(question) },
    });
  };
  return (
    <section className="upkeep-setup" aria-label="What is looked for">
      <ul>
        {upkeepSettings(checks).map((setting) => (
          <Setting key={setting.kind.key} setting={setting} />
        ))}
      </ul>
      <Allowed object="upkeepCheck" to="add">
        <Select
          showSearch={{ optionFilterProp: 'label' }}
          value={null}
          placeholder="Look for what a saved view finds"
          notFoundContent="No views are saved yet"
          options={views.map(({ id, name, object }) => ({
            value: id,
            label: `${name}, ${objectType(object).plural.toLowerCase()}`,
          }))}
          aria-label="Look for what a saved view finds"
          onChange={(id: number | null) => id !== null && add(id)}
        />
      </Allowed>
    </section>
  );
}
