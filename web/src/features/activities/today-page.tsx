import { useQuery } from '@tanstack/react-query';
import {
  addDays,
  allOf,
  ask,
  inDayOrder,
  ME,
  ownersOf,
  planDay,
  whoseWork,
  withLineDropped,
  withLineMoved,
  type Condition,
  type DayOrder,
  type Question,
} from '@zawn/core';
import { Button, Segmented } from 'antd';
import { useEffect, useMemo, useState } from 'react';
import { Link } from 'react-router';
import { allRecords, figures, pathOf } from '../../platform/api/queries';
import { useNotices, useWrite } from '../../platform/api/use-write';
import { Waterline } from '../forecast/waterline';
import { useAdd } from '../../kernel/shell/adding';
import { longDate, number } from '../../platform/frame/format';
import { useOpening } from '../../platform/frame/opening';
import { useShortcuts } from '../../platform/frame/shortcuts';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { listAddress } from '../../kernel/questions/list-address';
import { useSession } from '../../platform/sessions/session';
import { usePreferences } from '../../platform/sessions/use-preferences';
import { DealsToLookAt } from '../deals/deals-to-look-at';
import { useRing } from '../calls/current-call';
import { DayPartLines, type DayLine, type DayPart, type Sorting } from './day-parts';
import { useUnplannedWork } from './unplanned-work';
import { subjectOf, WorkLine, type Due, type LineForm } from './work-line';
import './today.css';
import { lazyPart } from '../../platform/frame/lazy-part';

const FirstHour = lazyPart(async () => (await import('../organisation/first-hour')).FirstHour);
const TeamDay = lazyPart(async () => (await import('./team-day')).TeamDay);
const Week = lazyPart(
  async () => (await import('./week')).Week,
  () => <Skeleton rows={10} />,
);

/** Days ahead that still belong to what is coming up. */
const AHEAD = 7;
const NO_ORDER: DayOrder = { first: [], rest: [] };
const FIRST = 'First';
/** So many lines keep the place they were put at; far more than anybody puts anywhere. */
const MOST_ORDERED = 1000;

const linesOnPage = () =>
  [...document.querySelectorAll<HTMLElement>('.today-main [data-line]')].map(({ dataset }) =>
    String(dataset.line),
  );
const lineOnPage = (line: string) => document.querySelector<HTMLElement>(`[data-line="${line}"]`);

const WITHOUT_NEXT_STEP: Condition[] = [
  { field: 'outcome', is: 'anyOf', value: ['open'] },
  { field: 'nextStepOn', is: 'isEmpty' },
];

/** The day's work in the order to do it: overdue, today, upcoming; each done or moved in place. */
export function Component() {
  const { policy, today, person } = useSession();
  const add = useAdd();
  const { open } = useOpening();
  const ring = useRing();
  const leads = policy.may('seeTeam');
  const [preferences, setPreferences] = usePreferences();
  // Fetched for those alone who set the organisation up, as long as they want it.
  const beginsHere = policy.may('setUpMoney') && !preferences.hidesFirstHour;
  const [scope, setScope] = useState<'mine' | 'team' | number>(leads ? 'team' : 'mine');
  const [isWeek, setWeek] = useState(false);
  /** What drags lines, fetched whole when somebody reaches for one: what is reached for is put in its place once. */
  const [sorting, setSorting] = useState<Sorting>();
  /** The line that the keyboard is at: `activity-12`, `touch-3`. */
  const [activeLine, setActiveLine] = useState<string>();
  const [opened, setOpened] = useState<{ id: number; form: LineForm }>();
  const whose = useMemo<Condition | undefined>(() => {
    if (scope !== 'team') return { field: 'owner', is: 'anyOf', value: [scope === 'mine' ? ME : scope] };
    return ownersOf(policy, 'activity');
  }, [scope, policy]);
  const question: Question = {
    version: 1,
    object: 'activity',
    where: allOf(
      { field: 'doneAt', is: 'isEmpty' },
      { field: 'dueOn', is: 'before', value: { days: AHEAD + 1 } },
      whose,
    ),
    sort: [{ field: 'dueOn' }],
    columns: ['deal.outcome', 'deal.tryAgainOn'],
  };
  const { data, error, refetch } = useQuery(allRecords(question));
  const write = useWrite();
  const { complain } = useNotices();
  // The order one gave one's day is for that day alone.
  const { workOrder } = preferences;
  const order = scope === 'mine' && workOrder?.day === today ? workOrder : NO_ORDER;
  const plan = useMemo(() => {
    const planned = planDay((data?.rows ?? []) as Due[], today);
    const tomorrow = addDays(today, 1);
    return {
      ...planned,
      tomorrow: planned.upcoming.filter(({ dueOn }) => dueOn === tomorrow),
      later: planned.upcoming.filter(({ dueOn }) => dueOn > tomorrow),
    };
  }, [data, today]);
  const lines = [...plan.overdue, ...plan.today, ...plan.tomorrow, ...plan.later];
  const active = lines.find(({ id }) => activeLine === `activity-${id}`);
  // Where the last one stood that was dealt with: the keyboard goes on with what moved up.
  const [stoodAt, setStoodAt] = useState(0);
  useEffect(() => {
    if (activeLine !== undefined) lineOnPage(activeLine)?.scrollIntoView({ block: 'nearest' });
  }, [activeLine, order]);
  const beginSorting = () => {
    // The lines are drawn anew: not while somebody writes in one.
    const begin = (fetched: Sorting) => {
      if (!document.querySelector('.today-main form')) setSorting(fetched);
    };
    import('./sortable-day').then(begin, complain);
  };
  // In the order in which they stand on the page, what was planned and what was not alike.
  const move = (step: number) => {
    const inOrder = linesOnPage();
    const at = activeLine === undefined ? -1 : inOrder.indexOf(activeLine);
    const from = at >= 0 ? at : step > 0 ? stoodAt - 1 : stoodAt;
    const to = Math.min(Math.max(from + step, 0), inOrder.length - 1);
    setActiveLine(inOrder[to]);
    setStoodAt(to);
  };
  /** Does with a line that nobody planned what its button of a key does. */
  const press = (key: string) => {
    if (activeLine === undefined || active) return;
    lineOnPage(activeLine)?.querySelector<HTMLElement>(`[data-key="${key}"]`)?.click();
  };
  const postpone = ({ id, version }: Due) =>
    write.mutate({
      method: 'PATCH',
      path: pathOf('activity', id),
      version,
      body: { dueOn: addDays(today, 1) },
    });
  const openSubject = () => {
    const subject = active && subjectOf(active, data?.names ?? {});
    if (subject) open(subject.object, subject.id);
  };
  useShortcuts('Today', [
    { keys: 'j', also: 'ArrowDown', does: 'Next line', run: () => move(1) },
    { keys: 'k', also: 'ArrowUp', does: 'Line before', run: () => move(-1) },
    { keys: 'Enter', does: 'Open its record', run: () => (active ? openSubject() : press('Enter')) },
    { keys: 'J', does: 'Put the line further down', run: () => shift(1) },
    { keys: 'K', does: 'Put the line further up', run: () => shift(-1) },
    {
      keys: 'd',
      does: 'Done, or take over',
      run: () => (active ? setOpened({ id: active.id, form: 'done' }) : press('d')),
    },
    {
      keys: 'p',
      does: 'Call',
      run: () => (active ? void ring({ activity: active.id }) : press('p')),
    },
    { keys: 'n', does: 'Plan what comes next with whom the line is about', run: () => press('n') },
    { keys: 's', does: 'Be reminded of them no more', run: () => press('s') },
    { keys: 'w', does: 'The week, or the day', run: () => setWeek(!isWeek) },
    { keys: 't', does: 'Move to tomorrow', run: () => active && postpone(active) },
    {
      keys: 'r',
      does: 'Move or hand over',
      run: () => active && setOpened({ id: active.id, form: 'move' }),
    },
    {
      keys: 'e',
      does: 'Details and steps',
      run: () => active && setOpened({ id: active.id, form: 'details' }),
    },
    {
      keys: 'x',
      does: 'Drop, with a reason; not this time',
      run: () => (active ? setOpened({ id: active.id, form: 'drop' }) : press('x')),
    },
  ]);

  const lineOf = (activity: Due): DayLine => ({
    line: `activity-${activity.id}`,
    draw: (grip) => (
      <WorkLine
        key={activity.id}
        activity={activity}
        names={data?.names ?? {}}
        isActive={activity === active}
        showOwner={scope === 'team'}
        form={opened?.id === activity.id ? opened.form : undefined}
        setForm={(form) => {
          setActiveLine(`activity-${activity.id}`);
          setOpened(form && { id: activity.id, form });
        }}
        grip={grip}
      />
    ),
  });

  // Counted over all of them: only the first are listed.
  const counted = useQuery(
    figures(
      [{ is: 'before' as const }, { is: 'is' as const }].map(({ is }) =>
        ask(
          'activity',
          { field: 'doneAt', is: 'isEmpty' },
          { field: 'dueOn', is, value: { days: 0 } },
          whose,
        ),
      ),
    ),
  ).data;
  const [overdue, dueToday] = counted?.map(([row]) => row?.figures[0] ?? 0) ?? [];
  const standing = counted
    ? [Boolean(overdue) && `${number(overdue ?? 0)} overdue`, `${number(dueToday ?? 0)} today`]
        .filter(Boolean)
        .join(', ')
    : '';
  const unplanned = useUnplannedWork({
    whose,
    showOwner: scope === 'team',
    active: activeLine,
    first: order.first,
  });
  const partOf = (
    title: string,
    activities: readonly Due[],
    count = activities.length,
    nothing = '',
  ): DayPart => ({
    title,
    count,
    lines: activities.map(lineOf),
    nothing,
  });
  const planned = [
    partOf('Overdue', plan.overdue, overdue),
    partOf('Today', plan.today, dueToday, lines.length > 0 ? 'Nothing is due today.' : ''),
  ];
  const toCome = [partOf('Tomorrow', plan.tomorrow), partOf('Upcoming', plan.later)];
  // The day in the order one gave it; what is to come keeps its dates.
  const ofTheDay = [...planned, ...unplanned];
  const namesOf = ofTheDay.map((part) => part.lines.map(({ line }) => line));
  const arranged = inDayOrder(namesOf, order);
  const byName = new Map(ofTheDay.flatMap((part) => part.lines).map((each) => [each.line, each]));
  const withLines = (part: DayPart, names: readonly string[]): DayPart => ({
    ...part,
    nothing: part.lines.length === 0 ? (part.nothing ?? '') : '',
    isOrdered: scope === 'mine',
    lines: names.map((name) => byName.get(name)).filter((line) => line !== undefined),
  });
  const parts = [
    withLines({ title: FIRST, count: arranged.first.length, lines: [] }, arranged.first),
    ...ofTheDay.map((part, index) => withLines(part, arranged.parts[index])),
    ...toCome,
  ];
  const keep = (next: DayOrder) =>
    void setPreferences({
      workOrder: { day: today, first: [...next.first], rest: next.rest.slice(-MOST_ORDERED) },
    });
  const shift = (step: 1 | -1) => {
    if (scope === 'mine' && activeLine !== undefined) keep(withLineMoved(namesOf, order, activeLine, step));
  };
  const drop = (line: string, on: string | undefined) => {
    const next = withLineDropped(namesOf, order, line, on);
    if (next) keep(next);
    else complain(new Error('A line keeps to its part of the day, or comes first.'));
  };
  const day = parts.map((part) => (
    <DayPartLines key={part.title} part={part} sorting={sorting} onReach={beginSorting} />
  ));
  return (
    <div className="today">
      <div className="today-main">
        <header className="page-head">
          <h1>{longDate(today)}</h1>
          <span className="page-count">{standing}</span>
          <div className="page-tools">
            <Segmented
              value={isWeek}
              options={[
                { value: false, label: 'Day' },
                { value: true, label: 'Week' },
              ]}
              onChange={setWeek}
              aria-label="Day or week"
            />
            {leads && (
              <Segmented
                value={scope}
                options={[
                  { value: 'team', label: whoseWork(policy, 'activity') === 'team' ? 'My team' : 'Everyone' },
                  { value: 'mine', label: 'Mine' },
                  ...(typeof scope === 'number' ? [{ value: scope, label: person(scope)?.name ?? '' }] : []),
                ]}
                onChange={setScope}
                aria-label="Whose day"
              />
            )}
            {policy.allows('activity', 'add') && <Button onClick={() => add('activity')}>Plan a task</Button>}
          </div>
        </header>
        {beginsHere && <FirstHour />}
        {scope === 'team' && <TeamDay whose={whose} show={setScope} />}
        {error ? (
          <Trouble error={error} retry={() => void refetch()} />
        ) : isWeek ? (
          <Week whose={whose} showOwner={scope === 'team'} />
        ) : !data ? (
          <Skeleton rows={10} />
        ) : (
          <>
            {lines.length === 0 && (
              <Empty title="Nothing is due in the next seven days.">
                {policy.allows('activity', 'add') && (
                  <Button onClick={() => add('activity')}>Plan a task</Button>
                )}
                <Link to={listAddress('deals', ask('deal', ...WITHOUT_NEXT_STEP, whose))}>
                  See which deals have no next step
                </Link>
              </Empty>
            )}
            {sorting ? <sorting.SortableDay drop={drop}>{day}</sorting.SortableDay> : day}
          </>
        )}
      </div>
      <aside className="today-side" aria-label="How it stands">
        <Waterline
          whose={whose}
          name={
            scope === 'mine'
              ? 'Your quarter'
              : scope === 'team'
                ? 'The team’s quarter'
                : `${person(scope)?.name ?? 'Their'}’s quarter`
          }
        />
        <DealsToLookAt whose={whose} />
      </aside>
    </div>
  );
}
