import { useQuery } from '@tanstack/react-query';
import { ask, type RecordOf } from '@zawn/core';
import { Checkbox } from 'antd';
import { allRecords } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { useSession } from '../../platform/sessions/session';

type Member = RecordOf<'teamMember'>;

const MEMBERS = { ...ask('teamMember'), sort: [{ field: 'id' }] };

/** The teams that somebody is in beside their main one. */
export function FurtherTeams({ person }: { person: RecordOf<'person'> }) {
  const { teams } = useSession();
  const write = useWrite();
  const { data } = useQuery(allRecords(MEMBERS));
  const members = ((data?.rows ?? []) as unknown as Member[]).filter((member) => member.person === person.id);
  const others = teams.filter(({ id }) => id !== person.team);
  if (others.length === 0) return null;
  return (
    <fieldset className="further-teams">
      <legend>Also in</legend>
      {others.map(({ id, name }) => {
        const member = members.find(({ team }) => team === id);
        return (
          <Checkbox
            key={id}
            checked={member !== undefined}
            onChange={() =>
              write.mutate(
                member
                  ? { method: 'DELETE', path: `/team-members/${member.id}`, version: member.version }
                  : { method: 'POST', path: '/team-members', body: { person: person.id, team: id } },
              )
            }
          >
            {name}
          </Checkbox>
        );
      })}
    </fieldset>
  );
}
