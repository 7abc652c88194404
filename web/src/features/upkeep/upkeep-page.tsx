import { useQuery } from '@tanstack/react-query';
import {
  allOf,
  ask,
  countsIn,
  objectType,
  readinessOf,
  togetherOf,
  upkeepKindsOf,
  upkeepQuestion,
  upkeepQuestions,
  type Policy,
  type UpkeepCheck,
  type UpkeepCounts,
  type UpkeepKind,
  type UpkeepOfAll,
} from '@zawn/core';
import { Button } from 'antd';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { allRecords, figureAnswers } from '../../platform/api/queries';
import { number, percent } from '../../platform/frame/format';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { listAddress } from '../../kernel/questions/list-address';
import { useSession } from '../../platform/sessions/session';
import { ownersOf } from '../../platform/sessions/whose-work';
import { ReadinessTrend } from './readiness-trend';
import { UpkeepSetup } from './upkeep-setup';
import { DuplicatesWaiting } from './duplicates-waiting';
import './upkeep.css';

/** The list of the records that something is wrong with, the fields to be put right beside their names. */
function addressOf({ of, where, fields }: UpkeepKind, policy: Policy, owners?: readonly number[]): string {
  const question = upkeepQuestion(of, where);
  const { path, nameField } = objectType(question.object);
  const whose =
    owners === undefined
      ? ownersOf(policy, question.object)
      : ({ field: 'owner', is: 'anyOf', value: [...owners] } as const);
  return listAddress(path, {
    ...question,
    where: allOf(question.where, whose),
    columns: [nameField, ...fields, ...(fields.includes('owner') ? [] : ['owner'])],
  });
}

const worstFirst = (counts: UpkeepCounts, kinds: readonly UpkeepKind[]) =>
  kinds.toSorted((a, b) => (counts.wrong[b.key] ?? 0) - (counts.wrong[a.key] ?? 0));

/** What is wrong, worst first, each with the records it is true of. */
function Kinds({ counts, kinds }: { counts: UpkeepCounts; kinds: readonly UpkeepKind[] }) {
  const { policy } = useSession();
  const most = Math.max(1, ...kinds.map(({ key }) => counts.wrong[key] ?? 0));
  return (
    <ol className="upkeep-kinds">
      {worstFirst(counts, kinds).map((kind) => {
        const wrong = counts.wrong[kind.key] ?? 0;
        return (
          <li key={kind.key}>
            <Link to={addressOf(kind, policy)}>
              <b>{number(wrong)}</b>
              <span className="upkeep-label">{kind.label}</span>
              <span className="upkeep-bar" style={{ ['--share' as string]: `${(100 * wrong) / most}%` }} />
              <span className="second">of {number(counts.bases[kind.of])}</span>
            </Link>
          </li>
        );
      })}
    </ol>
  );
}

/** Counts of one person, or of a team together, and how ready they are. */
interface Standing {
  counts: UpkeepCounts;
  owners: readonly number[];
  ready: number;
}

/** A line of figures, each opening the records of these owners that it counts. */
function Figures({ standing, columns }: { standing: Standing; columns: readonly UpkeepKind[] }) {
  const { policy } = useSession();
  const { counts, owners, ready } = standing;
  return (
    <>
      <td className="figure">{percent(ready)}</td>
      {columns.map((kind) => {
        const wrong = counts.wrong[kind.key] ?? 0;
        return (
          <td key={kind.key} className="figure">
            {wrong === 0 ? (
              <span className="second">–</span>
            ) : (
              <Link to={addressOf(kind, policy, owners)}>{number(wrong)}</Link>
            )}
          </td>
        );
      })}
    </>
  );
}

const leastReady = (a: Standing, b: Standing) => a.ready - b.ready;

/** The same person by person, team by team where there are several, the least ready first. */
function People({
  counts,
  kinds,
  looked,
}: {
  counts: UpkeepOfAll;
  /** Those in which something is wrong. */
  kinds: readonly UpkeepKind[];
  /** All that is looked for. */
  looked: readonly UpkeepKind[];
}) {
  const { people } = useSession();
  const { data: known } = useQuery(allRecords(ask('team')));
  const columns = worstFirst(counts.all, kinds);
  const rows = people
    .flatMap((person) => {
      const own = counts.byOwner.get(person.id);
      const ready = own && readinessOf(looked, own).ready;
      if (!own || ready === null || ready === undefined) return [];
      return [{ person, counts: own, owners: [person.id], ready }];
    })
    .sort(leastReady);
  if (rows.length < 2) return null;
  const teams = [...new Set(rows.map(({ person }) => person.team))]
    .map((id) => {
      const members = rows.filter(({ person }) => person.team === id);
      const together = togetherOf(
        looked,
        members.map((member) => member.counts),
      );
      const ready = readinessOf(looked, together).ready ?? 1;
      return { id, members, counts: together, owners: members.flatMap(({ owners }) => owners), ready };
    })
    .sort(leastReady);
  const nameOf = (id: number | null) =>
    String(known?.rows.find((each) => each.id === id)?.name ?? 'In no team');
  return (
    <section className="upkeep-people" aria-label="Person by person">
      <h2>{teams.length > 1 ? 'Team by team' : 'Person by person'}</h2>
      <div className="upkeep-scroll">
        <table>
          <thead>
            <tr>
              <th scope="col">Owner</th>
              <th scope="col" className="figure">
                Ready
              </th>
              {columns.map(({ key, short, label }) => (
                <th key={key} scope="col" className="figure" title={label}>
                  {short}
                </th>
              ))}
            </tr>
          </thead>
          {teams.map(({ id, members, ...together }) => (
            <tbody key={id}>
              {teams.length > 1 && (
                <tr className="upkeep-team">
                  <th scope="row">{nameOf(id)}</th>
                  <Figures standing={together} columns={columns} />
                </tr>
              )}
              {members.map(({ person, ...own }) => (
                <tr key={person.id}>
                  <th scope="row">
                    {person.name}
                    {!person.active && <span className="second"> left</span>}
                  </th>
                  <Figures standing={own} columns={columns} />
                </tr>
              ))}
            </tbody>
          ))}
        </table>
      </div>
    </section>
  );
}

/** Everything that is counted, for the people it is owned by. */
function useCounts(kinds: readonly UpkeepKind[] | undefined) {
  const { policy } = useSession();
  const asked = useMemo(() => upkeepQuestions(kinds ?? []), [kinds]);
  const questions = useMemo(
    () =>
      // What people look after is what they, or their teams, own: not whatever else they reach.
      asked.map(({ question }) => {
        const where = allOf(question.where, ownersOf(policy, question.object));
        return where ? { ...question, where } : question;
      }),
    [asked, policy],
  );
  const { data, error, refetch } = useQuery({ ...figureAnswers(questions), enabled: kinds !== undefined });
  const counts = useMemo(() => (kinds && data ? countsIn(asked, data) : undefined), [kinds, asked, data]);
  return { counts, error, refetch: () => void refetch() };
}

/** What is missing or stale in the data and makes reports wrong, by kind and by owner, each number opening its records. */
export function Component() {
  const { policy } = useSession();
  const [isSettingUp, setSettingUp] = useState(false);
  const { data: checks } = useQuery(allRecords(ask('upkeepCheck')));
  const said = checks?.rows as (UpkeepCheck & { version: number })[] | undefined;
  const kinds = useMemo(() => said && upkeepKindsOf(said), [said]);
  const { counts, error, refetch } = useCounts(kinds);
  if (error) return <Trouble error={error} retry={refetch} />;
  if (!counts || !kinds || !said) return <Skeleton rows={12} />;
  const { all, unseen } = counts;
  const { ready, asked, held } = readinessOf(kinds, all);
  const asks = kinds.filter(({ key, of }) => !unseen.has(key) && all.bases[of] > 0);
  const open = asks.filter(({ key }) => (all.wrong[key] ?? 0) > 0);
  const fine = asks.filter(({ key }) => (all.wrong[key] ?? 0) === 0);
  return (
    <div className="upkeep">
      <header className="page-head">
        <h1>Upkeep</h1>
        <span className="page-count">what is missing or stale, and makes reports wrong</span>
        {policy.may('setUpUpkeep') && (
          <span className="page-tools">
            <Button aria-expanded={isSettingUp} onClick={() => setSettingUp(!isSettingUp)}>
              What is looked for
            </Button>
          </span>
        )}
      </header>
      {isSettingUp && <UpkeepSetup checks={said} />}
      {ready === null ? (
        <p className="upkeep-ready">Nothing is on file yet that could be put right.</p>
      ) : (
        <p className="upkeep-ready">
          <b>{percent(ready)}</b> ready for reports: of {number(asked)} checks, one of each kind on each
          record it can be made on, {number(held)} hold.
          <ReadinessTrend ready={ready} />
        </p>
      )}
      {open.length > 0 && <Kinds counts={all} kinds={open} />}
      <DuplicatesWaiting />
      {fine.length > 0 && (
        <p className="second upkeep-fine">
          Nothing to do: {fine.map(({ label }) => label.charAt(0).toLowerCase() + label.slice(1)).join('; ')}.
        </p>
      )}
      <People counts={counts} kinds={open} looked={kinds} />
    </div>
  );
}
