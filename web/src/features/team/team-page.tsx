import { useQuery } from '@tanstack/react-query';
import {
  fieldOf,
  periodQuestions,
  winRate,
  type Condition,
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
import { byOwner, ProgressRow, sumOf, type PeriodFigures } from './progress-row';
import { StageBars } from './stage-bars';
import { teamTargets } from './team-targets';
import './team.css';

const periods: { value: string; label: string; period: RelativePeriod }[] = [
  { value: 'fiscalQuarter.0', label: 'This fiscal quarter', period: { unit: 'fiscalQuarter', offset: 0 } },
  { value: 'fiscalQuarter.-1', label: 'Last fiscal quarter', period: { unit: 'fiscalQuarter', offset: -1 } },
  { value: 'fiscalYear.0', label: 'This fiscal year', period: { unit: 'fiscalYear', offset: 0 } },
  { value: 'fiscalYear.-1', label: 'Last fiscal year', period: { unit: 'fiscalYear', offset: -1 } },
];

const grouped = (question: Question): Question => ({ ...question, groups: [{ field: 'owner' }] });

/** The team's open pipeline by stage and owner, won against target, and the win rate. Every figure opens its deals. */
export function Component() {
  const add = useAdd();
  const { policy, people, teams, pipelinesInUse, stagesOf, organisation, catalogue } = useSession();
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
      period.teamTarget,
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
  const figures: PeriodFigures = { questions: period, won, lost, open: byOwner(data[4]) };
  const total = totalOf(segments);
  const [allWon, allLost] = [sumOf(won), sumOf(lost)];
  const rate = winRate(allWon, allLost);
  const reach = policy.owners('deal') ?? people.map(({ id }) => id);
  const owners = people.filter(
    ({ id, sells }) =>
      reach.includes(id) && (sells === 'always' || won.has(id) || segments.some(({ owner }) => owner === id)),
  );
  const ownerIds = owners.map(({ id }) => id);
  const colours = theme.series(owners.length);
  const listOf = (question: Question) => listAddress('deals', question);
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
            <Link to={listOf(period.won)}>{counted(allWon.count, 'deal')} won</Link>,{' '}
            <Link to={listOf(period.lost)}>{counted(allLost.count, 'deal')} lost</Link>
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
            {owners.map(({ id, name }, index) => (
              <ProgressRow
                key={id}
                name={name}
                colour={colours[index % colours.length]}
                owners={[id]}
                target={targets.get(id) ?? null}
                figures={figures}
              />
            ))}
          </tbody>
          <tbody className="team-sums">
            {teamTargets(data[5], teams, people, reach).map(({ team, name, members, target }) => (
              <ProgressRow
                key={team ?? 'all'}
                name={team === null ? organisation.name : name}
                owners={members}
                target={target}
                figures={figures}
              />
            ))}
          </tbody>
        </table>
        <Unrated
          parts={[
            [period.won, answers?.[1].unrated],
            [period.lost, answers?.[2].unrated],
            [period.target, answers?.[3].unrated],
            [period.open, answers?.[4].unrated],
            [period.teamTarget, answers?.[5].unrated],
          ]}
        />
      </section>
    </div>
  );
}
