import { useMutation, useQuery } from '@tanstack/react-query';
import { ask, type NewPasswordLink, type PersonAccess, type RecordOf, type Written } from '@zawn/core';
import { Button, Select } from 'antd';
import { Ellipsis, Eye, Link2, LogOut, MailPlus, ShieldOff, Undo2, UserPlus } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { Allowed } from '../../platform/sessions/allowed';
import { ApiProblem, call } from '../../platform/api/client';
import { allRecords, RECORDS } from '../../platform/api/queries';
import { useNotices, useWrite } from '../../platform/api/use-write';
import { BarMenu } from '../../platform/frame/bar-menu';
import { counted } from '../../platform/frame/format';
import { PersonMark } from '../../platform/frame/person-mark';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { FurtherTeams } from './further-teams';
import { Invite, MadeLink, type Invited } from './invite';
import { roleOptions } from './roles';
import { TeamsPanel } from './teams-panel';
import { WayIn } from './way-in';
import './access.css';
import { lazyPart } from '../../platform/frame/lazy-part';

const LeavingDialog = lazyPart(async () => (await import('./leaving-dialog')).default);

type Person = RecordOf<'person'>;

const PEOPLE = { ...ask('person'), sort: [{ field: 'name' }] };
/** What stands for none in a list of teams. */
const NO_TEAM = 0;

/** Who works here: role, team, and how each of them gets in. */
export function Component() {
  const { me, teams, roles } = useSession();
  const { complain } = useNotices();
  const write = useWrite();
  const navigate = useNavigate();
  const [isInviting, setInviting] = useState(false);
  const [leaver, setLeaver] = useState<Person>();
  const [made, setMade] = useState<{ link: NewPasswordLink; name: string }>();
  const { data, error, refetch } = useQuery(allRecords(PEOPLE));
  const { data: access, refetch: refetchAccess } = useQuery({
    queryKey: [RECORDS, 'people-access'],
    queryFn: () => call<{ people: PersonAccess[] }>('GET', '/people/access'),
  });
  const makeLink = useMutation({
    mutationFn: async ({ id, name }: Pick<Person, 'id' | 'name'>) => ({
      name,
      link: await call<NewPasswordLink>('POST', `/people/${id}/password-link`),
    }),
    onSuccess: setMade,
    onError: complain,
    onSettled: () => refetchAccess(),
  });
  const invite = useMutation({
    mutationFn: (values: Invited) =>
      call<Written<Person>>('POST', '/people', { body: { ...values, active: true } }),
    onSuccess: ({ value }) => {
      setInviting(false);
      void refetch();
      makeLink.mutate(value);
    },
    // What is wrong with a field is said beside it.
    onError: (problem) => {
      if (!(problem instanceof ApiProblem && problem.problem.faults)) complain(problem);
    },
  });
  const removeStep = useMutation({
    mutationFn: (id: number) => call('POST', `/people/${id}/second-step/removal`),
    onSuccess: () => refetchAccess(),
    onError: complain,
  });
  const people = (data?.rows ?? []) as unknown as Person[];
  const here = people.filter(({ active }) => active);
  const accessOf = (id: number) => access?.people.find(({ person }) => person === id);
  const invitedCount = here.filter(({ id }) => accessOf(id)?.hasPassword === false).length;
  const change = ({ id, version }: Person, body: Partial<Person>) =>
    write.mutate({ method: 'PATCH', path: `/people/${id}`, version, body });
  const actionsOf = (person: Person) => {
    const own = accessOf(person.id);
    if (!person.active)
      return [
        {
          key: 'back',
          label: 'Bring back',
          icon: <Undo2 size={14} />,
          onClick: () => change(person, { active: true }),
        },
      ];
    return [
      {
        key: 'link',
        label: own?.hasPassword ? 'Make a link for a new password' : 'Invite again',
        icon: own?.hasPassword ? <Link2 size={14} /> : <MailPlus size={14} />,
        onClick: () => makeLink.mutate(person),
      },
      {
        key: 'reach',
        label: 'What can they see?',
        icon: <Eye size={14} />,
        onClick: () => void navigate(`/setup/reach?person=${person.id}`),
      },
      ...(own?.hasSecondStep
        ? [
            {
              key: 'step',
              label: 'Take the second step off',
              icon: <ShieldOff size={14} />,
              onClick: () => removeStep.mutate(person.id),
            },
          ]
        : []),
      ...(person.id === me.id
        ? []
        : [
            {
              key: 'leave',
              label: 'Leaves …',
              icon: <LogOut size={14} />,
              onClick: () => setLeaver(person),
            },
          ]),
    ];
  };
  return (
    <>
      <header className="page-head">
        <h1>People</h1>
        {data && (
          <span className="page-count">
            {counted(here.length, 'person', 'people')}
            {invitedCount > 0 && `, ${invitedCount} of them not in yet`}
          </span>
        )}
        <div className="page-tools">
          <Allowed object="person" to="add">
            <Button type="primary" icon={<UserPlus size={15} />} onClick={() => setInviting(true)}>
              Invite
            </Button>
          </Allowed>
        </div>
      </header>
      {isInviting && (
        <Invite
          invite={invite.mutateAsync}
          close={() => setInviting(false)}
          isBusy={invite.isPending || makeLink.isPending}
        />
      )}
      {made && <MadeLink {...made} />}
      {error ? (
        <Trouble error={error} retry={() => void refetch()} />
      ) : !data ? (
        <Skeleton rows={8} />
      ) : (
        <div className="people-and-teams">
          <ul className="people-list" aria-label="People">
            {people.map((person) => (
              <li key={person.id} className={person.active ? '' : 'people-left'}>
                <PersonMark {...person} />
                <span className="people-who">
                  <b className="clip">{person.name}</b>
                  <small className="second clip">{person.jobTitle ?? person.email}</small>
                </span>
                <Select
                  variant="borderless"
                  value={person.role}
                  options={roleOptions(roles, person.role)}
                  onChange={(role) => change(person, { role })}
                  disabled={!person.active}
                  aria-label={`Role of ${person.name}`}
                />
                <Select
                  variant="borderless"
                  value={person.team ?? NO_TEAM}
                  options={[
                    { value: NO_TEAM, label: 'No team' },
                    ...teams.map(({ id, name }) => ({ value: id, label: name })),
                  ]}
                  onChange={(team: number) => change(person, { team: team === NO_TEAM ? null : team })}
                  disabled={!person.active}
                  popupMatchSelectWidth={false}
                  aria-label={`Team of ${person.name}`}
                  popupRender={(menu) => (
                    <>
                      {menu}
                      <FurtherTeams person={person} />
                    </>
                  )}
                />
                <WayIn person={person} access={accessOf(person.id)} />
                <BarMenu
                  className="people-more"
                  label={`Actions for ${person.name}`}
                  menu={{ items: actionsOf(person) }}
                >
                  <Ellipsis size={16} aria-hidden />
                </BarMenu>
              </li>
            ))}
          </ul>
          <TeamsPanel people={people} />
        </div>
      )}
      {leaver && (
        <LeavingDialog person={leaver} close={() => setLeaver(undefined)} left={() => void refetchAccess()} />
      )}
    </>
  );
}
