import { useQuery } from '@tanstack/react-query';
import { ask, type RecordOf } from '@zawn/core';
import { Button, Input, Select } from 'antd';
import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { Allowed } from '../../platform/sessions/allowed';
import { allRecords } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { counted } from '../../platform/frame/format';
import { KeptName } from '../../platform/frame/kept-field';

type Team = RecordOf<'team'>;

/** What stands for no team above. */
const ON_TOP = 0;

const TEAMS = { ...ask('team'), sort: [{ field: 'name' }] };

/** Teams in the order of their tree, each with how deep it stands; what stands in a circle comes last. */
export function inTree(teams: readonly Team[]): { team: Team; depth: number }[] {
  const below = (parent: number | null, depth: number): { team: Team; depth: number }[] =>
    teams
      .filter((team) => (team.parent ?? null) === parent)
      .flatMap((team) => [{ team, depth }, ...below(team.id, depth + 1)]);
  const tree = below(null, 0);
  const placed = new Set(tree.map(({ team }) => team.id));
  return [...tree, ...teams.filter(({ id }) => !placed.has(id)).map((team) => ({ team, depth: 0 }))];
}

/** The teams as a tree: whoever leads one sees those below it. */
export function TeamsPanel({ people }: { people: readonly RecordOf<'person'>[] }) {
  const write = useWrite();
  const [name, setName] = useState('');
  const { data } = useQuery(allRecords(TEAMS));
  const teams = (data?.rows ?? []) as unknown as Team[];
  const change = ({ id, version }: Team, body: Partial<Team>) =>
    write.mutate({ method: 'PATCH', path: `/teams/${id}`, version, body });
  const membersOf = (id: number) => people.filter(({ team, active }) => active && team === id).length;
  const options = teams.map((team) => ({ value: team.id, label: team.name }));
  return (
    <section className="people-beside" aria-label="Teams">
      <h2>Teams</h2>
      <ul>
        {inTree(teams).map(({ team, depth }) => (
          <li key={team.id} style={{ paddingLeft: depth * 18 }}>
            <KeptName
              variant="borderless"
              value={team.name}
              maxLength={200}
              aria-label={`Name of ${team.name}`}
              keep={(next) => change(team, { name: next })}
            />
            <Select
              variant="borderless"
              value={team.parent ?? ON_TOP}
              options={[
                { value: ON_TOP, label: 'on top' },
                ...options.filter(({ value }) => value !== team.id),
              ]}
              onChange={(parent: number) => change(team, { parent: parent === ON_TOP ? null : parent })}
              popupMatchSelectWidth={false}
              aria-label={`${team.name} is part of`}
            />
            <span className="second figure" title={counted(membersOf(team.id), 'person', 'people')}>
              {membersOf(team.id)}
            </span>
            <Allowed object="team" to="delete">
              <Button
                type="text"
                size="small"
                icon={<Trash2 size={14} />}
                disabled={membersOf(team.id) > 0}
                aria-label={`Delete ${team.name}`}
                onClick={() =>
                  write.mutate({ method: 'DELETE', path: `/teams/${team.id}`, version: team.version })
                }
              />
            </Allowed>
          </li>
        ))}
      </ul>
      <Allowed object="team" to="add">
        <form
          className="access-line"
          onSubmit={(event) => {
            event.preventDefault();
            write.mutate(
              { method: 'POST', path: '/teams', body: { name: name.trim() } },
              { onSuccess: () => setName('') },
            );
          }}
        >
          <Input
            value={name}
            maxLength={200}
            placeholder="Another team"
            aria-label="Name of another team"
            onChange={({ target }) => setName(target.value)}
          />
          <Button htmlType="submit" icon={<Plus size={14} />} disabled={name.trim() === ''}>
            Add
          </Button>
        </form>
      </Allowed>
    </section>
  );
}
