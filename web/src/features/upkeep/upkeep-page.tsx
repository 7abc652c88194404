import { useQuery } from '@tanstack/react-query';
import {
  ask,
  readinessOf,
  stillWrong,
  togetherOf,
  worstFirst,
  type UpkeepCounts,
  type UpkeepKind,
  type UpkeepOfAll,
} from '@zawn/core';
import { Button } from 'antd';
import { useState } from 'react';
import { Link } from 'react-router';
import { allRecords } from '../../platform/api/queries';
import { number, percent } from '../../platform/frame/format';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { addressOf, Kinds, useUpkeep } from './kinds';
import { ReadinessTrend } from './readiness-trend';
import { UpkeepSetup } from './upkeep-setup';
import { DuplicatesWaiting } from './duplicates-waiting';
import './upkeep.css';

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

/** What is missing or stale in the data and makes reports wrong, by kind and by owner, each number opening its records. */
export function Component() {
  const { policy } = useSession();
  const [isSettingUp, setSettingUp] = useState(false);
  const { said, kinds, counts, error, refetch } = useUpkeep();
  if (error) return <Trouble error={error} retry={refetch} />;
  if (!counts || !kinds || !said) return <Skeleton rows={12} />;
  const { all, unseen } = counts;
  const { ready, asked, held } = readinessOf(kinds, all);
  const asks = kinds.filter(({ key, of }) => !unseen.has(key) && all.bases[of] > 0);
  const open = stillWrong(kinds, counts);
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
