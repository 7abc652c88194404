import { daysBetween, isSubject, type AnyRecord, type Day, type Names, type RecordAnswer } from '@zawn/core';
import { Button } from 'antd';
import { Check, CircleArrowRight, ListTree, Phone, Repeat, Users } from 'lucide-react';
import { type ReactNode } from 'react';
import { call } from '../../platform/api/client';
import { pathOf } from '../../platform/api/queries';
import { useNotices, useWrite } from '../../platform/api/use-write';
import { nearDate } from '../../platform/frame/format';
import { useOpening, type Opened } from '../../platform/frame/opening';
import { Skeleton } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { useRing } from '../calls/current-call';
import { KindIcon } from './kinds';
import { lazyPart } from '../../platform/frame/lazy-part';

const waiting = () => <Skeleton rows={2} />;
const DoneForm = lazyPart(async () => (await import('./done-form')).DoneForm, waiting);
const MoveForm = lazyPart(async () => (await import('./move-form')).MoveForm, waiting);
const DetailsForm = lazyPart(async () => (await import('./details-form')).DetailsForm, waiting);
const DropForm = lazyPart(async () => (await import('./drop-form')).DropForm, waiting);

export type Due = AnyRecord & { dueOn: string; dueAt: string | null; priority: string | null };

/** The record an activity is most of all about: the deal before the lead before the person. */
export function subjectOf(activity: AnyRecord, names: Names): (Opened & { name: string }) | undefined {
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
  /** What it is dragged by; nothing where it keeps its place. */
  grip?: ReactNode;
}

/** The forms by which a line is dealt with where it stands. */
export type LineForm = 'done' | 'move' | 'drop' | 'details';

const forms = { done: DoneForm, move: MoveForm, drop: DropForm, details: DetailsForm };

/** One piece of work, dealt with where it stands. */
export function WorkLine({ activity, names, isActive, showOwner, form, setForm, grip }: LineProps) {
  const { today, person } = useSession();
  const toggle = (which: LineForm) => setForm(form === which ? undefined : which);
  const close = () => setForm(undefined);
  const Form = form && forms[form];
  const ring = useRing();
  const { open } = useOpening();
  const subject = subjectOf(activity, names);
  const late = daysBetween(activity.dueOn, today);
  const when =
    activity.dueOn === today
      ? (activity.dueAt ?? 'any time')
      : `${nearDate(activity.dueOn, today)}${activity.dueAt ? ` ${activity.dueAt}` : ''}`;
  return (
    <li
      className={isActive ? 'work work-active' : 'work'}
      data-activity={activity.id}
      data-line={`activity-${activity.id}`}
    >
      <div className="work-line">
        {grip}
        <span className={`work-when ${late > 0 ? 'attention late' : ''}`}>{when}</span>
        <KindIcon kind={String(activity.kind)} />
        <span className="work-what clip">
          <b>{activity.name}</b>
          {activity.repeats && <Repeat size={12} aria-label="Repeated" role="img" className="second" />}
          {activity.together && (
            <Users size={12} aria-label="Given to several" role="img" className="second" />
          )}
          {typeof activity.steps === 'number' && (
            <button
              type="button"
              className="link-button second"
              onClick={() => toggle('details')}
              aria-label={`${Number(activity.stepsDone)} of ${activity.steps} steps: ${String(activity.name)}`}
            >
              {Number(activity.stepsDone)} of {activity.steps} steps
            </button>
          )}
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
          {activity.kind === 'call' && subject && (
            <Button
              size="small"
              type="text"
              icon={<Phone size={14} />}
              onClick={() => void ring({ activity: activity.id })}
              title="Call"
              aria-label={`Call: ${String(activity.name)}`}
            />
          )}
          <Button
            size="small"
            type="text"
            icon={<ListTree size={14} />}
            onClick={() => toggle('details')}
            title="Details and steps"
            aria-label={`Details and steps: ${String(activity.name)}`}
            aria-expanded={form === 'details'}
          />
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
      {Form && <Form activity={activity} close={close} />}
    </li>
  );
}
