import { useQuery } from '@tanstack/react-query';
import { ask, type RecordOf } from '@zawn/core';
import { Checkbox, Select, Tag } from 'antd';
import { Eye } from 'lucide-react';
import { Link } from 'react-router';
import { Allowed } from '../../platform/sessions/allowed';
import { allRecords } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { useSession } from '../../platform/sessions/session';

type Grant = RecordOf<'roleGrant'>;

const GRANTS = { ...ask('roleGrant'), sort: [{ field: 'id' }] };

/** Who has a role: as their own, as a further one, or through a team. */
export function RoleHolders({ role }: { role: RecordOf<'role'> }) {
  const { people, teams, person } = useSession();
  const write = useWrite();
  const { data } = useQuery(allRecords(GRANTS));
  const grants = ((data?.rows ?? []) as unknown as Grant[]).filter((grant) => grant.role === role.key);
  const own = people.filter((each) => each.active && each.role === role.key);
  const has = (kind: 'person' | 'team', id: number) =>
    grants.some((grant) => grant[kind] === id) || (kind === 'person' && own.some((each) => each.id === id));
  const options = [
    {
      label: 'People',
      options: people
        .filter(({ id, active }) => active && !has('person', id))
        .map(({ id, name }) => ({ value: `person ${id}`, label: name })),
    },
    {
      label: 'Everyone in a team, and below',
      options: teams
        .filter(({ id }) => !has('team', id))
        .map(({ id, name }) => ({ value: `team ${id}`, label: name })),
    },
  ];
  return (
    <section className="role-part" aria-label="Who has it">
      <h2>Who has it</h2>
      <p className="role-people">
        {own.map(({ id, name }) => (
          <Link key={id} to={`/setup/reach?person=${id}`} className="role-person">
            {name} <Eye size={12} aria-hidden />
          </Link>
        ))}
        {own.length === 0 && <span className="second">Nobody as their own role. </span>}
      </p>
      {grants.map((grant) => (
        <Tag
          key={grant.id}
          closable
          onClose={(event) => {
            event.preventDefault();
            write.mutate({ method: 'DELETE', path: `/role-grants/${grant.id}`, version: grant.version });
          }}
        >
          {grant.team === null
            ? `${person(grant.person)?.name ?? 'Somebody'}, beside their own`
            : `Everyone in ${teams.find(({ id }) => id === grant.team)?.name ?? 'a team'}`}
        </Tag>
      ))}
      <Allowed object="roleGrant" to="add">
        <Select<string>
          size="small"
          className="role-add"
          value={null}
          options={options}
          showSearch={{ optionFilterProp: 'label' }}
          placeholder="Give it to others as well"
          onChange={(chosen) => {
            const [kind, id] = chosen.split(' ');
            write.mutate({
              method: 'POST',
              path: '/role-grants',
              body: { role: role.key, [kind]: Number(id) },
            });
          }}
          aria-label="Give it to others as well"
        />
      </Allowed>
      <p>
        <Checkbox
          checked={role.secondStep}
          onChange={({ target }) =>
            write.mutate({
              method: 'PATCH',
              path: `/roles/${role.id}`,
              version: role.version,
              body: { secondStep: target.checked },
            })
          }
        >
          They sign in with a second step
        </Checkbox>
      </p>
    </section>
  );
}
