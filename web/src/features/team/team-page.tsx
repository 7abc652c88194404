import { useQueries, useQuery } from '@tanstack/react-query';
import {
  fieldOf,
  ownersOf,
  periodMeant,
  progressIn,
  progressReport,
  recordsBehind,
  whoseWork,
  type Condition,
  type FieldValue,
  type Question,
  type RelativePeriod,
  type ReportAnswer,
  type ReportDesign,
} from '@zawn/core';
import { Button, Select } from 'antd';
import { useMemo } from 'react';
import { Link, useSearchParams } from 'react-router';
import { figures, reportAnswer } from '../../platform/api/queries';
import { Waterline } from '../forecast/waterline';
import { counted, money, percent, shortMoney } from '../../platform/frame/format';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { DESIGN, listAddress } from '../../kernel/questions/list-address';
import { Unrated } from '../../kernel/questions/unrated';
import { useSession } from '../../platform/sessions/session';
import { useAdd } from '../../kernel/shell/adding';
import { useTheme } from '../../platform/theme/theme';
import { pipelineReport, segmentQuestion, segmentsOf, totalIn, totalOf } from './pipeline-figures';
import { ProgressRow } from './progress-row';
import { StageBars } from './stage-bars';
import { targetsOf, teamTargetQuestion, teamTargets } from './team-targets';
import './team.css';

const periods: { value: string; label: string; period: RelativePeriod }[] = [
  { value: 'fiscalQuarter.0', label: 'This fiscal quarter', period: { unit: 'fiscalQuarter', offset: 0 } },
  { value: 'fiscalQuarter.-1', label: 'Last fiscal quarter', period: { unit: 'fiscalQuarter', offset: -1 } },
  { value: 'fiscalYear.0', label: 'This fiscal year', period: { unit: 'fiscalYear', offset: 0 } },
  { value: 'fiscalYear.-1', label: 'Last fiscal year', period: { unit: 'fiscalYear', offset: -1 } },
];

const OWNERS = { groups: [{ field: 'owner' }] };
/** A new report that begins with a design. */
const reportAddress = (design: ReportDesign) =>
  `/reports/new?${new URLSearchParams({ [DESIGN]: JSON.stringify(design) }).toString()}`;

const unratedIn = ({ unrated }: ReportAnswer) =>
  unrated.map(({ question, count }) => [question, count] as const);

/** The team's open pipeline by stage and owner, won against target, and the win rate. Every figure opens its deals. */
export function Component() {
  const add = useAdd();
  const { policy, people, teams, pipelinesInUse, stagesOf, organisation, catalogue, today } = useSession();
  const theme = useTheme();
  const [parameters, setParameters] = useSearchParams();
  const { currency } = organisation;
  const chosen = periods.find(({ value }) => value === parameters.get('period')) ?? periods[0];
  const whose = useMemo<Condition | undefined>(
    () => (whoseWork(policy, 'deal') === 'team' ? ownersOf(policy, 'deal') : undefined),
    [policy],
  );
  const pipeline = useMemo(() => pipelineReport(whose), [whose]);
  const progress = useMemo(() => progressReport(whose, chosen.period, OWNERS), [whose, chosen]);
  const days = periodMeant(chosen.period, { today, calendar: organisation });
  const openQuery = useQuery(reportAnswer(pipeline));
  const closedQuery = useQuery(reportAnswer(progress));
  const [open, closed] = [openQuery.data, closedQuery.data];
  const { data: toWin } = useQuery(figures([teamTargetQuestion(days)]));
  const reach = useMemo(() => policy.owners('deal') ?? people.map(({ id }) => id), [policy, people]);
  const teamRows = useMemo(
    () =>
      teamTargets(toWin?.[0] ?? [], teams, people, reach).map(({ team, name, members }) => {
        const whoseDeals: Condition = { field: 'owner', is: 'anyOf', value: members };
        const design = progressReport(whoseDeals, chosen.period, { targets: targetsOf(team) });
        return { team, name: team === null ? organisation.name : name, design };
      }),
    [toWin, teams, people, reach, chosen, organisation.name],
  );
  const ofTeams = useQueries({ queries: teamRows.map(({ design }) => reportAnswer(design)) });
  const segments = segmentsOf(open?.answer.rows ?? []);
  const stageIds = new Set(segments.map(({ stage }) => stage));
  const error = openQuery.error ?? closedQuery.error;

  if (!fieldOf(catalogue, 'deal', 'value'))
    return <Empty title="The amounts of deals are not yours to see, so there is nothing to add up." />;
  if (error)
    return (
      <Trouble error={error} retry={() => void Promise.all([openQuery.refetch(), closedQuery.refetch()])} />
    );
  if (!open || !closed) return <Skeleton rows={12} />;
  const total = totalIn(open.answer.rows[0].figures);
  const rowOf = new Map(closed.answer.rows.map((row) => [row.keys.at(0), row]));
  const all = progressIn(closed.design, rowOf.get(undefined));
  const owners = people.filter(
    ({ id, sells }) =>
      reach.includes(id) &&
      (sells === 'always' ||
        progressIn(closed.design, rowOf.get(id)).won.count > 0 ||
        segments.some(({ owner }) => owner === id)),
  );
  const ownerIds = owners.map(({ id }) => id);
  const colours = theme.series(owners.length);
  const listOf = (question: Question) => listAddress('deals', question);
  /** The address of the records behind a figure of a report, in all or of one owner. */
  const behind = (design: ReportDesign, key: string, ...keys: FieldValue[]) => {
    const figure = design.figures.find((each) => each.key === key);
    const place = { keys, ...(figure ? { figure } : {}) };
    return listOf(recordsBehind(design, { catalogue, calendar: organisation, today }, place));
  };
  if (total.count === 0 && all.won.count === 0)
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
        <Unrated of="the open pipeline" parts={unratedIn(open.answer)} />
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
            Win rate <b>{all.winRate.byCount === null ? '–' : percent(all.winRate.byCount)}</b> by count,{' '}
            <b>{all.winRate.byValue === null ? '–' : percent(all.winRate.byValue)}</b> by value:{' '}
            <Link to={behind(closed.design, 'wondeals')}>{counted(all.won.count, 'deal')} won</Link>,{' '}
            <Link to={behind(closed.design, 'lostdeals')}>{counted(all.lost.count, 'deal')} lost</Link>
          </span>
          <Link to={reportAddress(closed.design)}>Open as a report</Link>
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
                design={closed.design}
                row={rowOf.get(id)}
                addressOf={(figure) => behind(closed.design, figure, id)}
              />
            ))}
          </tbody>
          <tbody className="team-sums">
            {teamRows.map(({ team, name, design }, index) => (
              <ProgressRow
                key={team ?? 'all'}
                name={name}
                design={design}
                row={ofTeams.at(index)?.data?.answer.rows[0]}
                addressOf={(figure) => behind(design, figure)}
              />
            ))}
          </tbody>
        </table>
        <Unrated parts={unratedIn(closed.answer)} />
      </section>
    </div>
  );
}
