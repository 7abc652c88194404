import { useQuery } from '@tanstack/react-query';
import {
  addDays,
  allOf,
  ask,
  daysBetween,
  isSubject,
  ME,
  planDay,
  untouchedLead,
  type AnyRecord,
  type Condition,
  type Day,
  type Names,
  type Question,
  type RecordAnswer,
} from '@zawn/core';
import { Button, Segmented } from 'antd';
import { Check, CircleArrowRight } from 'lucide-react';
import { lazy, Suspense, useEffect, useMemo, useState } from 'react';
import { Link } from 'react-router';
import { call } from '../../platform/api/client';
import { allRecords, figures, pathOf } from '../../platform/api/queries';
import { useNotices, useWrite } from '../../platform/api/use-write';
import { Waterline } from '../forecast/waterline';
import { useAdd } from '../../kernel/shell/adding';
import { longDate, nearDate, number } from '../../platform/frame/format';
import { useOpening, type Opened } from '../../platform/frame/opening';
import { useShortcuts } from '../../platform/frame/shortcuts';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { listAddress } from '../../kernel/questions/list-address';
import { useSession } from '../../platform/sessions/session';
import { usePreferences } from '../../platform/sessions/use-preferences';
import { ownersOf, whoseWork } from '../../platform/sessions/whose-work';
import { DealsToLookAt } from '../deals/deals-to-look-at';
import { SuggestionsOnToday } from '../people/contact-suggestions';
import { Touches } from '../people/touches';
import { KindIcon } from './kinds';
import './today.css';

const FirstHour = lazy(() =>
  import('../organisation/first-hour').then(({ FirstHour: part }) => ({ default: part })),
);
const DoneForm = lazy(() => import('./done-form').then(({ DoneForm: part }) => ({ default: part })));
const MoveForm = lazy(() => import('./move-form').then(({ MoveForm: part }) => ({ default: part })));

/** Days ahead that still belong to what is coming up. */
const AHEAD = 7;

type Due = AnyRecord & { dueOn: string; dueAt: string | null; priority: string | null };

/** The record an activity is most of all about: the deal before the lead before the person. */
function subjectOf(activity: AnyRecord, names: Names): (Opened & { name: string }) | undefined {
  for (const object of ['deal', 'lead', 'contact', 'account'] as const) {
    const id = activity[object];
    if (id !== null && isSubject(object))
      return { object, id: Number(id), name: names[object]?.[Number(id)] ?? '' };
  }
  return undefined;
}

/** Whether it is about a deal that was lost and is to be tried again by now. */
const isDueAgain = (activity: AnyRecord, today: Day): boolean =>
  activity['deal.outcome'] === 'lost' &&
  typeof activity['deal.tryAgainOn'] === 'string' &&
  activity['deal.tryAgainOn'] <= today;

/** Opens a lost deal again where its new try stands, and shows it. */
function ReopenDeal({ deal }: { deal: number }) {
  const { policy } = useSession();
  const { open } = useOpening();
  const { complain } = useNotices();
  const write = useWrite();
  if (!policy.may('closeDeals')) return null;
  const reopen = async () => {
    const { record } = await call<RecordAnswer>('GET', pathOf('deal', deal));
    const path = `${pathOf('deal', deal)}/reopen`;
    write.mutate({ method: 'POST', path, version: record.version }, { onSuccess: () => open('deal', deal) });
  };
  return (
    <Button size="small" loading={write.isPending} onClick={() => void reopen().catch(complain)}>
      Reopen the deal
    </Button>
  );
}

interface LineProps {
  activity: Due;
  names: Names;
  isActive: boolean;
  showOwner: boolean;
  /** Which form stands open under it. */
  form: LineForm | undefined;
  setForm: (form: LineForm | undefined) => void;
}

type LineForm = 'done' | 'move';

function WorkLine({ activity, names, isActive, showOwner, form, setForm }: LineProps) {
  const { today, person } = useSession();
  const toggle = (which: LineForm) => setForm(form === which ? undefined : which);
  const close = () => setForm(undefined);
  const { open } = useOpening();
  const subject = subjectOf(activity, names);
  const late = daysBetween(activity.dueOn, today);
  const when =
    activity.dueOn === today
      ? (activity.dueAt ?? 'any time')
      : `${nearDate(activity.dueOn, today)}${activity.dueAt ? ` ${activity.dueAt}` : ''}`;
  return (
    <li className={isActive ? 'work work-active' : 'work'} data-activity={activity.id}>
      <div className="work-line">
        <span className={`work-when ${late > 0 ? 'attention late' : ''}`}>{when}</span>
        <KindIcon kind={String(activity.kind)} />
        <span className="work-what clip">
          <b>{activity.name}</b>
          {activity.priority === 'high' && <span className="attention"> · high</span>}
          {subject && (
            <>
              {' '}
              <button type="button" className="link-button" onClick={() => open(subject.object, subject.id)}>
                {subject.name || 'its record'}
              </button>
            </>
          )}
        </span>
        {showOwner && <span className="second clip work-who">{person(Number(activity.owner))?.name}</span>}
        <span className="work-actions">
          {isDueAgain(activity, today) && <ReopenDeal deal={Number(activity.deal)} />}
          <Button
            size="small"
            type="text"
            icon={<CircleArrowRight size={14} />}
            onClick={() => toggle('move')}
            title="Move or hand over"
            aria-label={`Move or hand over: ${String(activity.name)}`}
            aria-expanded={form === 'move'}
          />
          <Button
            size="small"
            icon={<Check size={14} />}
            onClick={() => toggle('done')}
            aria-expanded={form === 'done'}
          >
            Done
          </Button>
        </span>
      </div>
      {form && (
        <Suspense fallback={<Skeleton rows={2} />}>
          {form === 'done' ? (
            <DoneForm activity={activity} close={close} />
          ) : (
            <MoveForm activity={activity} close={close} />
          )}
        </Suspense>
      )}
    </li>
  );
}

/** Leads that nobody has called, met or written to yet. */
const WITHOUT_NEXT_STEP: Condition[] = [
  { field: 'outcome', is: 'anyOf', value: ['open'] },
  { field: 'nextStepOn', is: 'isEmpty' },
];

function UntouchedLeads({ whose }: { whose: Condition | undefined }) {
  const question = ask('lead', untouchedLead, whose);
  const { data: counts } = useQuery(figures([question]));
  const count = counts?.[0][0]?.figures[0] ?? 0;
  if (count === 0) return null;
  return (
    <section className="concern" aria-label="Untouched leads">
      <h3>
        <Link to={listAddress('leads', question)}>{number(count)}</Link> {count === 1 ? 'lead' : 'leads'}{' '}
        nobody has touched
      </h3>
    </section>
  );
}

function Concerns({ whose }: { whose: Condition | undefined }) {
  const { me } = useSession();
  return (
    <>
      <DealsToLookAt whose={whose} />
      <Touches whose={whose} />
      <SuggestionsOnToday owner={me.id} />
      <UntouchedLeads whose={whose} />
    </>
  );
}

/** The day's work in the order to do it: overdue, today, upcoming; each done or moved in place. */
export function Component() {
  const { policy, today } = useSession();
  const add = useAdd();
  const { open } = useOpening();
  const leads = policy.may('seeTeam');
  const [preferences] = usePreferences();
  // Fetched for those alone who set the organisation up, as long as they want it.
  const beginsHere = policy.may('setUpMoney') && !preferences.hidesFirstHour;
  const [scope, setScope] = useState<'mine' | 'team'>(leads ? 'team' : 'mine');
  const [activeId, setActiveId] = useState<number>();
  const [opened, setOpened] = useState<{ id: number; form: LineForm }>();
  const whose = useMemo<Condition | undefined>(() => {
    if (scope === 'mine') return { field: 'owner', is: 'anyOf', value: [ME] };
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
  const plan = useMemo(() => planDay((data?.rows ?? []) as Due[], today), [data, today]);
  const lines = [...plan.overdue, ...plan.today, ...plan.upcoming];
  const active = lines.find(({ id }) => id === activeId);
  const at = active ? lines.indexOf(active) : -1;
  useEffect(() => {
    if (activeId !== undefined)
      document.querySelector(`[data-activity="${activeId}"]`)?.scrollIntoView({ block: 'nearest' });
  }, [activeId]);
  const move = (step: number) => setActiveId(lines[Math.min(Math.max(at + step, 0), lines.length - 1)]?.id);
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
    { keys: 'Enter', does: 'Open its record', run: openSubject },
    { keys: 'd', does: 'Done', run: () => active && setOpened({ id: active.id, form: 'done' }) },
    { keys: 't', does: 'Move to tomorrow', run: () => active && postpone(active) },
    {
      keys: 'r',
      does: 'Move or hand over',
      run: () => active && setOpened({ id: active.id, form: 'move' }),
    },
  ]);

  const section = (title: string, activities: readonly Due[], count: number | undefined, nothing?: string) =>
    activities.length === 0 && !nothing ? null : (
      <section className="work-section" aria-label={title}>
        <h2 className={title === 'Overdue' ? 'attention late' : ''}>
          {title} <span className="second">{count ? number(count) : ''}</span>
        </h2>
        {activities.length === 0 && <p className="second work-nothing">{nothing}</p>}
        <ul>
          {activities.map((activity) => (
            <WorkLine
              key={activity.id}
              activity={activity}
              names={data?.names ?? {}}
              isActive={activity.id === activeId}
              showOwner={scope === 'team'}
              form={opened?.id === activity.id ? opened.form : undefined}
              setForm={(form) => {
                setActiveId(activity.id);
                setOpened(form && { id: activity.id, form });
              }}
            />
          ))}
        </ul>
      </section>
    );

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
  return (
    <div className="today">
      <div className="today-main">
        <header className="page-head">
          <h1>{longDate(today)}</h1>
          <span className="page-count">{standing}</span>
          <div className="page-tools">
            {leads && (
              <Segmented
                value={scope}
                options={[
                  { value: 'team', label: whoseWork(policy, 'activity') === 'team' ? 'My team' : 'Everyone' },
                  { value: 'mine', label: 'Mine' },
                ]}
                onChange={setScope}
                aria-label="Whose day"
              />
            )}
            {policy.allows('activity', 'add') && <Button onClick={() => add('activity')}>Plan a task</Button>}
          </div>
        </header>
        {beginsHere && (
          <Suspense>
            <FirstHour />
          </Suspense>
        )}
        {error ? (
          <Trouble error={error} retry={() => void refetch()} />
        ) : !data ? (
          <Skeleton rows={10} />
        ) : lines.length === 0 ? (
          <Empty title="Nothing is due in the next seven days.">
            {policy.allows('activity', 'add') && <Button onClick={() => add('activity')}>Plan a task</Button>}
            <Link to={listAddress('deals', ask('deal', ...WITHOUT_NEXT_STEP, whose))}>
              See which deals have no next step
            </Link>
          </Empty>
        ) : (
          <>
            {section('Overdue', plan.overdue, overdue)}
            {section('Today', plan.today, dueToday, 'Nothing is due today.')}
            {section('Upcoming', plan.upcoming, plan.upcoming.length)}
          </>
        )}
      </div>
      <aside className="today-side" aria-label="How it stands">
        <Waterline whose={whose} name={scope === 'mine' ? 'Your quarter' : 'The team’s quarter'} />
        <Concerns whose={whose} />
      </aside>
    </div>
  );
}
