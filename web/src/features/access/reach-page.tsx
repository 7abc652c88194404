import { useQuery } from '@tanstack/react-query';
import {
  actType,
  fieldOf,
  isObjectKey,
  objectType,
  operationLabels,
  operationsOn,
  subjectKeys,
  whereInWords,
  type Act,
  type Hit,
  type ObjectKey,
  type ObjectReach,
  type PersonReach,
  type RecordReach,
  type RoleHeld,
  type SaidByRole,
} from '@zawn/core';
import { AutoComplete, Select } from 'antd';
import { Check, X } from 'lucide-react';
import { useDeferredValue, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { call } from '../../platform/api/client';
import { RECORDS } from '../../platform/api/queries';
import { number } from '../../platform/frame/format';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { peopleToChoose } from '../../platform/sessions/people-to-choose';
import { useWording } from '../../kernel/questions/use-wording';
import './access.css';
import './roles.css';

const NO_NAMES = {};
const SHORTEST = 2;
const SHOWN = ['see', 'edit', 'delete', 'export'] as const;

/** What somebody may do, and what of it they may not: `set up products, but not delete`. */
function actInWords(act: Act, withheld: PersonReach['withheld']): string {
  const label = actType(act).label.toLowerCase();
  const kept = withheld.find((each) => each.act === act)?.operations ?? [];
  if (kept.length === 0) return label;
  return `${label}, but not ${kept.map((operation) => operationLabels[operation].toLowerCase()).join(' or ')}`;
}

/** What a role says of records, as a sentence. */
function useSayings() {
  const wording = useWording(NO_NAMES);
  return (object: ObjectKey, { role, where, reach }: SaidByRole) => {
    const plural = objectType(object).plural.toLowerCase();
    const which = where ? `${plural} where ${whereInWords(object, where, wording)}` : plural;
    const how = {
      none: `no ${which}`,
      own: `their own ${which}`,
      shared: `their own ${which} and those shared with them`,
      team: `their team’s ${which}`,
      below: `${which} of their team and the teams below`,
      all: `all ${which}`,
    }[reach];
    return `${role}: ${how}`;
  };
}

function RolesHeld({ roles }: { roles: readonly RoleHeld[] }) {
  const { teams } = useSession();
  const through = ({ through: way, team }: RoleHeld) =>
    way === 'own'
      ? ''
      : way === 'grant'
        ? ' (given beside)'
        : ` (everyone in ${teams.find(({ id }) => id === team)?.name ?? 'a team'})`;
  return (
    <>
      {roles.map((role, index) => (
        <span key={`${role.key} ${role.through} ${role.team ?? ''}`}>
          {index > 0 && ' and '}
          <Link to={`/setup/roles?role=${role.key}`}>{role.name}</Link>
          {through(role)}
        </span>
      ))}
    </>
  );
}

/** One kind of records: with how many somebody may do what, why, and a few of them. */
function ObjectLine({ reach, say }: { reach: ObjectReach; say: ReturnType<typeof useSayings> }) {
  const { catalogue } = useSession();
  const { object, total, counts, said, shared, examples, hidden, locked } = reach;
  const { plural, path } = objectType(object);
  const labels = (keys: readonly string[]) =>
    keys.map((key) => (fieldOf(catalogue, object, key)?.label ?? key).toLowerCase()).join(', ');
  const isSubject = subjectKeys.some((key) => key === object);
  return (
    <tr>
      <th scope="row">
        {plural}
        <small className="second">{number(total)} in all</small>
      </th>
      {SHOWN.map((operation) => {
        const count = counts[operation];
        return (
          <td key={operation} className={`figure ${count === 0 ? 'second' : ''}`}>
            {count === undefined ? '' : number(count)}
          </td>
        );
      })}
      <td>
        {said.map((each, index) => (
          <span key={index} className="reach-said">
            {say(object, each)}
          </span>
        ))}
        {shared > 0 && (
          <span className="reach-said second">{number(shared)} shared with them one by one</span>
        )}
        {hidden.length > 0 && <span className="reach-said second">not seen: {labels(hidden)}</span>}
        {locked.length > 0 && <span className="reach-said second">not changed: {labels(locked)}</span>}
      </td>
      <td className="reach-examples">
        {examples.map(({ id, name }) => (
          <span key={id} className="clip">
            {isSubject ? <Link to={`/${path}/${id}`}>{name}</Link> : name}
          </span>
        ))}
      </td>
    </tr>
  );
}

/** What decides over one record. */
function Verdicts({ verdict, name }: { verdict: RecordReach; name: string }) {
  const say = useSayings();
  const { object, verdicts } = verdict;
  return (
    <ul className="verdicts">
      {verdicts.map(({ operation, isAllowed, said, isShared, isUnseen }) => (
        <li key={operation} className={isAllowed ? 'gains' : 'loses'}>
          {isAllowed ? <Check size={15} aria-hidden /> : <X size={15} aria-hidden />}
          <b>
            {name} {isAllowed ? 'may' : 'may not'} {operationLabels[operation].toLowerCase()} it
          </b>
          <span className="second">
            {isUnseen
              ? 'because it is not seen'
              : isAllowed && isShared && said.length === 0
                ? 'because it is shared with them'
                : said.map((each) => say(object, each)).join('; ')}
            {isAllowed && isShared && said.length > 0 && '; it is shared with them'}
          </span>
        </li>
      ))}
    </ul>
  );
}

/** What somebody can see and do, in counts and examples, and what decides over one record. */
export function Component() {
  const { people, me } = useSession();
  const [parameters, setParameters] = useSearchParams();
  const person = Number(parameters.get('person') ?? me.id);
  const name = people.find(({ id }) => id === person)?.name ?? 'Somebody';
  const say = useSayings();
  const [typed, setTyped] = useState('');
  const asked = useDeferredValue(typed.trim());
  const [object, id] = (parameters.get('record') ?? '').split('-');
  const set = (values: Record<string, string>) =>
    setParameters({ ...Object.fromEntries(parameters), ...values }, { replace: true });
  const { data, error, refetch } = useQuery({
    queryKey: [RECORDS, 'reach', person],
    queryFn: ({ signal }) => call<PersonReach>('GET', `/people/${person}/reach`, { signal }),
  });
  const { data: found } = useQuery({
    queryKey: [RECORDS, 'search', asked],
    queryFn: ({ signal }) =>
      call<{ hits: Hit[] }>('GET', `/search?q=${encodeURIComponent(asked)}`, { signal }),
    enabled: asked.length >= SHORTEST,
  });
  const { data: verdict } = useQuery({
    queryKey: [RECORDS, 'reach', person, object, id],
    queryFn: ({ signal }) =>
      call<RecordReach>('GET', `/people/${person}/reach/${objectType(object as ObjectKey).path}/${id}`, {
        signal,
      }),
    enabled: isObjectKey(object) && Number(id) > 0,
  });
  const operations = SHOWN.filter((operation) => operationsOn('deal').includes(operation));
  return (
    <>
      <header className="page-head">
        <h1>
          What can{' '}
          <Select
            variant="borderless"
            className="reach-person"
            value={person}
            options={peopleToChoose(people, person)}
            showSearch={{ optionFilterProp: 'label' }}
            popupMatchSelectWidth={false}
            onChange={(next) => set({ person: String(next) })}
            aria-label="Whose reach"
          />{' '}
          see?
        </h1>
        {data && (
          <span className="page-count">
            as <RolesHeld roles={data.roles} />
          </span>
        )}
      </header>
      {error ? (
        <Trouble error={error} retry={() => void refetch()} />
      ) : !data ? (
        <Skeleton rows={10} />
      ) : (
        <div className="reach-page">
          <section className="reach-one" aria-label="One record">
            <AutoComplete
              value={typed}
              onChange={setTyped}
              options={(found?.hits ?? []).map((hit) => ({
                value: `${hit.object}-${hit.id}`,
                'aria-label': `${hit.name}, ${objectType(hit.object).label.toLowerCase()}`,
                label: (
                  <>
                    {hit.name} <span className="second">{objectType(hit.object).label.toLowerCase()}</span>
                  </>
                ),
              }))}
              onSelect={(value: string) => {
                setTyped('');
                set({ record: value });
              }}
              placeholder="One record: type its name"
              aria-label="One record"
            />
            {verdict && (
              <>
                <h2>
                  {objectType(verdict.object).label} “{verdict.name}”
                </h2>
                <Verdicts verdict={verdict} name={name} />
              </>
            )}
          </section>
          <table className="reach-counts">
            <thead>
              <tr>
                <th scope="col">
                  <span className="visually-hidden">Of</span>
                </th>
                {operations.map((operation) => (
                  <th key={operation} scope="col" className="figure">
                    {operationLabels[operation]}
                  </th>
                ))}
                <th scope="col">Because</th>
                <th scope="col">Such as</th>
              </tr>
            </thead>
            <tbody>
              {data.objects.map((each) => (
                <ObjectLine key={each.object} reach={each} say={say} />
              ))}
            </tbody>
          </table>
          <p className="reach-acts">
            {data.acts.length === 0
              ? 'Beside that, nothing.'
              : `Beside that: ${data.acts.map((act) => actInWords(act, data.withheld)).join('; ')}.`}
          </p>
        </div>
      )}
    </>
  );
}
