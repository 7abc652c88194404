import { useQuery } from '@tanstack/react-query';
import { addDays, allOf, ask, dayOff, periodOf, type AnyRecord, type Condition, type Day } from '@zawn/core';
import { Button } from 'antd';
import { Check, ChevronLeft, ChevronRight } from 'lucide-react';
import { useState } from 'react';
import { allRecords } from '../../platform/api/queries';
import { clock, initials, shortDate } from '../../platform/frame/format';
import { useOpening } from '../../platform/frame/opening';
import { Skeleton } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { KindIcon } from './kinds';
import { subjectOf, type Due } from './work-line';

interface Props {
  whose: Condition | undefined;
  showOwner: boolean;
}

/** The days of a week side by side: what is planned, by the clock, and what was done. */
export function Week({ whose, showOwner }: Props) {
  const { today, organisation, calendar } = useSession();
  const [offset, setOffset] = useState(0);
  const { from, to } = periodOf('week', today, organisation, offset);
  const between: Condition = { field: 'dueOn', is: 'between', value: [from, addDays(to, -1)] };
  const question = {
    ...ask('activity', allOf(between, whose)),
    sort: [{ field: 'dueOn' }, { field: 'dueAt' }],
  };
  const { data } = useQuery(allRecords(question));
  const all = Array.from({ length: 7 }, (_, at) => addDays(from, at));
  const on = (day: Day) =>
    ((data?.rows ?? []) as Due[])
      .filter(({ dueOn }) => dueOn === day)
      // What has a time stands by the clock, the rest below.
      .toSorted((a, b) => (a.dueAt ?? '99').localeCompare(b.dueAt ?? '99'));
  // Days off are shown where something stands on them.
  const days = all.filter((day) => dayOff(calendar, day) === undefined || on(day).length > 0);
  return (
    <section className="week" aria-label="The week">
      <header>
        <Button
          icon={<ChevronLeft size={15} />}
          onClick={() => setOffset(offset - 1)}
          aria-label="The week before"
        />
        <b>
          {shortDate(from)} to {shortDate(addDays(to, -1))}
        </b>
        <Button
          icon={<ChevronRight size={15} />}
          onClick={() => setOffset(offset + 1)}
          aria-label="The next week"
        />
      </header>
      {!data ? (
        <Skeleton rows={8} />
      ) : (
        <ol style={{ ['--days' as string]: days.length }}>
          {days.map((day) => (
            <li key={day} className={day === today ? 'week-today' : ''}>
              <h3>{shortDate(day)}</h3>
              {on(day).map((activity) => (
                <Planned key={activity.id} activity={activity} names={data.names} showOwner={showOwner} />
              ))}
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}

type Names = Parameters<typeof subjectOf>[1];

function Planned({ activity, names, showOwner }: { activity: AnyRecord; names: Names; showOwner: boolean }) {
  const { today, person, timeZone } = useSession();
  const { open } = useOpening();
  const subject = subjectOf(activity, names);
  const isDone = activity.doneAt !== null;
  const isLate = !isDone && String(activity.dueOn) < today;
  const time = isDone ? clock(String(activity.doneAt), timeZone) : String(activity.dueAt ?? '');
  return (
    <article className={isDone ? 'week-done' : isLate ? 'week-late' : ''}>
      <span className="second">
        {isDone ? (
          <Check size={12} aria-label="Done" role="img" />
        ) : (
          <KindIcon kind={String(activity.kind)} />
        )}{' '}
        {time}
        {showOwner && <b> {initials(person(Number(activity.owner))?.name ?? '')}</b>}
      </span>
      <span className="week-what">{String(activity.name)}</span>
      {subject && (
        <button type="button" className="link-button clip" onClick={() => open(subject.object, subject.id)}>
          {subject.name || 'its record'}
        </button>
      )}
    </article>
  );
}
