import { useQuery } from '@tanstack/react-query';
import {
  allOf,
  fieldOf,
  periodQuestions,
  progressOf,
  winRate,
  type Condition,
  type FigureRow,
  type Question,
  type RelativePeriod,
} from '@zawn/core';
import { Button, Select } from 'antd';
import { useMemo } from 'react';
import { Link, useSearchParams } from 'react-router';
import { figureAnswers } from '../../platform/api/queries';
import { Waterline } from '../forecast/waterline';
import { counted, money, percent, shortMoney } from '../../platform/frame/format';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { listAddress } from '../../kernel/questions/list-address';
import { Unrated } from '../../kernel/questions/unrated';
import { useSession } from '../../platform/sessions/session';
import { ownersOf, whoseWork } from '../../platform/sessions/whose-work';
import { useAdd } from '../../kernel/shell/adding';
import { useTheme } from '../../platform/theme/theme';
import { pipelineQuestion, segmentQuestion, segmentsOf, totalOf } from './pipeline-figures';
import { StageBars } from './stage-bars';
import './team.css';

const periods: { value: string; label: string; period: RelativePeriod }[] = [
  { value: 'fiscalQuarter.0', label: 'This fiscal quarter', period: { unit: 'fiscalQuarter', offset: 0 } },
  { value: 'fiscalQuarter.-1', label: 'Last fiscal quarter', period: { unit: 'fiscalQuarter', offset: -1 } },
  { value: 'fiscalYear.0', label: 'This fiscal year', period: { unit: 'fiscalYear', offset: 0 } },
  { value: 'fiscalYear.-1', label: 'Last fiscal year', period: { unit: 'fiscalYear', offset: -1 } },
];

interface Closed {
  count: number;
  value: number;
}

const NONE: Closed = { count: 0, value: 0 };

/** Figures of deals by owner: count and value. */
function byOwner(rows: readonly FigureRow[]): Map<number, Closed> {
  return new Map(
    rows.map(({ keys: [owner], figures: [count, value] }) => [
      Number(owner),
      { count: count ?? 0, value: value ?? 0 },
    ]),
  );
}

function sum(all: Iterable<Closed>): Closed {
  const total = { ...NONE };
  for (const { count, value } of all) {
    total.count += count;
    total.value += value;
  }
  return total;
}

const grouped = (question: Question): Question => ({ ...question, groups: [{ field: 'owner' }] });

/** A figure that opens the records it counts; a dash when there are none. */
function Figure({ to, children, isNothing }: { to: string; children: React.ReactNode; isNothing: boolean }) {
  return (
    <td className="figure">
      {isNothing ? <span className="second">–</span> : <Link to={to}>{children}</Link>}
    </td>
  );
}

/** The team's open pipeline by stage and owner, won against target, and the win rate. Every figure opens its deals. */
export function Component() {
  const add = useAdd();
  const { policy, people, pipelinesInUse, stagesOf, organisation, catalogue } = useSession();
  const theme = useTheme();
  const [parameters, setParameters] = useSearchParams();
  const { currency } = organisation;
  const chosen = periods.find(({ value }) => value === parameters.get('period')) ?? periods[0];
  const whose = useMemo<Condition | undefined>(
    () => (whoseWork(policy, 'deal') === 'team' ? ownersOf(policy, 'deal') : undefined),
    [policy],
  );
  const period = periodQuestions(whose, chosen.period);
  const {
    data: answers,
    error,
    refetch,
  } = useQuery(
    figureAnswers([
      pipelineQuestion(whose),
      grouped(period.won),
      grouped(period.lost),
      grouped(period.target),
      grouped(period.open),
    ]),
  );
  const data = useMemo(() => answers?.map(({ rows }) => rows), [answers]);
  const stageIds = useMemo(() => new Set(data ? segmentsOf(data[0]).map(({ stage }) => stage) : []), [data]);

  if (!fieldOf(catalogue, 'deal', 'value'))
    return <Empty title="The amounts of deals are not yours to see, so there is nothing to add up." />;
  if (error) return <Trouble error={error} retry={() => void refetch()} />;
  if (!data) return <Skeleton rows={12} />;
  const segments = segmentsOf(data[0]);
  const won = byOwner(data[1]);
  const lost = byOwner(data[2]);
  const targets = new Map(
    data[3].map(({ keys: [owner], figures: [amount] }) => [Number(owner), amount ?? 0]),
  );
  const expected = new Map(
    data[4].map(({ keys: [owner], figures: [count, value, weighted] }) => [
      Number(owner),
      { count: count ?? 0, value: value ?? 0, weighted: weighted ?? 0 },
    ]),
  );
  const total = totalOf(segments);
  const rate = winRate(sum(won.values()), sum(lost.values()));
  const reach = policy.owners('deal') ?? people.map(({ id }) => id);
  const owners = people.filter(
    ({ id, sells }) =>
      reach.includes(id) && (sells === 'always' || won.has(id) || segments.some(({ owner }) => owner === id)),
  );
  const ownerIds = owners.map(({ id }) => id);
  const colours = theme.series(owners.length);
  const listOf = (question: Question) => listAddress('deals', question);
  const ofOwner = (question: Question, owner: number): Question => ({
    ...question,
    where: allOf(question.where, { field: 'owner', is: 'anyOf', value: [owner] }),
  });
  if (total.count === 0 && won.size === 0)
    return (
      <>
        <header className="page-head">
          <h1>Team pipeline</h1>
        </header>
        <Empty title="The team’s deals stand here once there are some.">
          {policy.allows('deal', 'add') && <Button onClick={() => add('deal')}>Add a deal</Button>}
          {policy.allows('deal', 'import') && <Link to="/imports">Bring in a file of deals</Link>}
        </Empty>
      </>
    );

  return (
    <div className="team">
      <header className="page-head">
        <h1>
          <Link to={listOf(segmentQuestion(whose))}>{money(total.value, currency)}</Link> open
        </h1>
        <span className="page-count">
          in {counted(total.count, 'deal')}, weighted {money(total.weighted, currency)}
        </span>
      </header>
      <div className="team-waterline">
        <Waterline whose={whose} name="The team’s quarter" />
        <Unrated of="the open pipeline" parts={[[pipelineQuestion(whose), answers?.[0].unrated]]} />
      </div>
      <section className="team-stages" aria-label="Open pipeline by stage and owner">
        {pipelinesInUse.map(({ id, name }) => {
          const stages = stagesOf(id);
          if (!stages.some((stage) => stageIds.has(stage.id))) return null;
          const own = segments.filter(({ stage }) => stages.some((each) => each.id === stage));
          return (
            <div key={id}>
              <h2>
                {name} <span className="second">{shortMoney(totalOf(own).value, currency)}</span>
              </h2>
              <StageBars
                stages={stages}
                owners={ownerIds}
                segments={own}
                listOf={(stage, owner) => listOf(segmentQuestion(whose, stage, owner))}
              />
            </div>
          );
        })}
      </section>
      <section className="team-people" aria-label="Person by person">
        <div className="team-people-head">
          <h2>Person by person</h2>
          <Select
            value={chosen.value}
            aria-label="Period"
            options={periods.map(({ value, label }) => ({ value, label }))}
            popupMatchSelectWidth={false}
            onChange={(value) =>
              setParameters((before) => {
                before.set('period', value);
                return before;
              })
            }
          />
          <span className="team-rate">
            Win rate <b>{rate.byCount === null ? '–' : percent(rate.byCount)}</b> by count,{' '}
            <b>{rate.byValue === null ? '–' : percent(rate.byValue)}</b> by value:{' '}
            <Link to={listOf(period.won)}>{counted(sum(won.values()).count, 'deal')} won</Link>,{' '}
            <Link to={listOf(period.lost)}>{counted(sum(lost.values()).count, 'deal')} lost</Link>
          </span>
        </div>
        <table>
          <thead>
            <tr>
              <th>Owner</th>
              <th className="figure">Expected to close</th>
              <th className="figure">Weighted</th>
              <th className="figure">Won</th>
              <th className="figure">Target</th>
              <th className="figure">Attained</th>
              <th className="figure">Deals won</th>
              <th className="figure">Deals lost</th>
              <th className="figure">Win rate</th>
            </tr>
          </thead>
          <tbody>
            {owners.map(({ id, name }, index) => {
              const open = expected.get(id) ?? { ...NONE, weighted: 0 };
              const theirs = won.get(id) ?? NONE;
              const away = lost.get(id) ?? NONE;
              const target = targets.get(id) ?? null;
              const { attainment } = progressOf({
                won: theirs.value,
                open: open.value,
                weightedOpen: open.weighted,
                target,
              });
              const own = winRate(theirs, away);
              const openList = listOf(ofOwner(period.open, id));
              return (
                <tr key={id}>
                  <th scope="row">
                    <span className="team-colour" style={{ background: colours[index % colours.length] }} />
                    {name}
                  </th>
                  <Figure to={openList} isNothing={open.count === 0}>
                    {shortMoney(open.value, currency)}
                  </Figure>
                  <Figure to={openList} isNothing={open.count === 0}>
                    {shortMoney(open.weighted, currency)}
                  </Figure>
                  <Figure to={listOf(ofOwner(period.won, id))} isNothing={theirs.count === 0}>
                    {shortMoney(theirs.value, currency)}
                  </Figure>
                  <td className="figure">{target ? shortMoney(target, currency) : '–'}</td>
                  <td className="figure">{attainment === null ? '–' : percent(attainment)}</td>
                  <Figure to={listOf(ofOwner(period.won, id))} isNothing={theirs.count === 0}>
                    {theirs.count}
                  </Figure>
                  <Figure to={listOf(ofOwner(period.lost, id))} isNothing={away.count === 0}>
                    {away.count}
                  </Figure>
                  <td className="figure">{own.byCount === null ? '–' : percent(own.byCount)}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
        <Unrated
          parts={[
            [period.won, answers?.[1].unrated],
            [period.lost, answers?.[2].unrated],
            [period.target, answers?.[3].unrated],
            [period.open, answers?.[4].unrated],
          ]}
        />
      </section>
    </div>
  );
}
