import { useQuery } from '@tanstack/react-query';
import { ask, workingCalendar, type AnyRecord, type BusinessHours, type RecordOf } from '@zawn/core';
import { allRecords, oneRecord } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { HoursFields } from '../../platform/frame/hours-fields';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { Holidays } from './holidays';
import './organisation.css';

const TEAMS = { ...ask('team'), sort: [{ field: 'name' }] };

/** On which days and at what times the organisation works, and teams that have hours of their own. */
function Hours({ settings }: { settings: AnyRecord & RecordOf<'organisation'> }) {
  const session = useSession();
  const { data } = useQuery(allRecords(TEAMS));
  const write = useWrite();
  const teams = (data?.rows ?? []) as unknown as RecordOf<'team'>[];
  const without = (id: number) => ({
    ...session,
    teams: session.teams.map((team) => (team.id === id ? { id, parent: team.parent } : team)),
  });
  const change = (path: string, version: number, body: BusinessHours) =>
    write.mutateAsync({ method: 'PATCH', path, version, body });
  return (
    <section className="working-hours" aria-label="Business hours">
      <h2>Business hours</h2>
      <table>
        <tbody>
          <tr>
            <th scope="row">{settings.name}</th>
            <td>
              <HoursFields
                of={settings.name}
                hours={settings}
                otherwise={workingCalendar({ organisation: {}, teams: [], holidays: [] }, null)}
                change={(hours) => change('/organisation/1', settings.version, hours)}
              />
            </td>
          </tr>
          {teams.map((team) => (
            <tr key={team.id}>
              <th scope="row">{team.name}</th>
              <td>
                <HoursFields
                  of={team.name}
                  hours={team}
                  otherwise={workingCalendar(without(team.id), team.id)}
                  change={(hours) => change(`/teams/${team.id}`, team.version, hours)}
                  canInherit
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="second">
        What is dashed is as in the team above, or as the organisation has it. People can say their own hours
        in their profile. Suggestions of when to do something go by them.
      </p>
    </section>
  );
}

/** When the organisation works: days of the week, hours and holidays. */
export function Component() {
  const { data, error, refetch } = useQuery(oneRecord('organisation', 1));
  const settings = data?.record as (AnyRecord & RecordOf<'organisation'>) | undefined;
  return (
    <>
      <header className="page-head">
        <h1>Working days and holidays</h1>
        <span className="page-count">for everybody and for teams; kept as soon as it is chosen</span>
      </header>
      {error ? (
        <Trouble error={error} retry={() => void refetch()} />
      ) : !settings ? (
        <Skeleton rows={7} />
      ) : (
        <div className="calendar-page">
          <Hours settings={settings} />
          <Holidays />
        </div>
      )}
    </>
  );
}
