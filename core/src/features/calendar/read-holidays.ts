import type ICAL from 'ical.js' with { 'resolution-mode': 'import' };
import { addDays, daysBetween, isDay, type Day } from '../../platform/time';
import { type HolidaysRead } from '../../kernel/organisation/api';

/** Days that one entry may last: what is longer is no public holiday. */
const LONGEST_DAYS = 14;
/** Years after the present one that a holiday which comes again is read for. */
const YEARS_AHEAD = 5;
/** Times that an entry is looked through for: what comes again each day ends there. */
const MOST_TIMES = 5000;
/** Events that are looked at: a file of more is somebody's own calendar. */
const MOST_EVENTS = 1000;
const MOST_NAME = 100;

const pad = (value: number) => String(value).padStart(2, '0');
const dayOf = ({ year, month, day }: ICAL.Time): Day => `${year}-${pad(month)}-${pad(day)}`;

const textOf = (component: ICAL.Component, property: string) =>
  String(component.getFirstPropertyValue(property) ?? '').trim();
const isException = (component: ICAL.Component) => component.hasProperty('recurrence-id');
const isCalledOff = (component: ICAL.Component) => textOf(component, 'status').toUpperCase() === 'CANCELLED';

/** Why an event is no public holiday; undefined when it is one. */
function faultOf(event: ICAL.Event): string | undefined {
  const start = event.startDate as ICAL.Time | null;
  if (!start) return 'has no day';
  if (!start.isDate) return 'is not a whole day';
  if (isCalledOff(event.component)) return 'was called off';
  if (daysBetween(dayOf(start), dayOf(event.endDate)) > LONGEST_DAYS)
    return `lasts longer than ${LONGEST_DAYS} days`;
  return undefined;
}

/** The events of a file, each with the exceptions of its series; what is no calendar has none. */
async function eventsIn(text: string): Promise<ICAL.Event[] | undefined> {
  const { default: reader } = await import('ical.js');
  let components: ICAL.Component[];
  try {
    const parsed = reader.parse(text.replace(/^\uFEFF/, '').trim()) as unknown[];
    const calendars = (Array.isArray(parsed[0]) ? parsed : [parsed]) as unknown[][];
    components = calendars.flatMap((each) => new reader.Component(each).getAllSubcomponents('vevent'));
  } catch {
    return undefined;
  }
  const series = new Set(components.filter((each) => !isException(each)).map((each) => textOf(each, 'uid')));
  const exceptions = new Map<string, ICAL.Component[]>();
  for (const each of components.filter(isException)) {
    const uid = textOf(each, 'uid');
    exceptions.set(uid, [...(exceptions.get(uid) ?? []), each]);
  }
  // An exception whose series is not in the file stands for itself.
  return components
    .filter((each) => !isException(each) || !series.has(textOf(each, 'uid')))
    .map((component) => {
      const own = isException(component) ? [] : (exceptions.get(textOf(component, 'uid')) ?? []);
      return new reader.Event(component, { exceptions: own });
    });
}

/**
 * Reads public holidays from an iCalendar file (RFC 5545): events of whole days, those that come again for the
 * present year and the five after it. Events with a time, called off or longer than two weeks are none, and said.
 * @param today what lies before this year is left out.
 */
export async function readHolidays(text: string, today: Day): Promise<HolidaysRead> {
  const events = await eventsIn(text);
  if (!events)
    return { holidays: [], faults: ['This is no calendar: choose an iCalendar file, which ends in .ics'] };
  if (events.length > MOST_EVENTS)
    return {
      holidays: [],
      faults: [
        `There are ${events.length} events in this calendar, more than holidays have. Choose one of holidays only`,
      ],
    };
  const year = Number(today.slice(0, 4));
  const [from, to] = [`${year}-01-01`, `${year + YEARS_AHEAD}-12-31`];
  const faults: string[] = events.length === 0 ? ['There are no events in this calendar'] : [];
  const names = new Map<Day, Set<string>>();
  for (const event of events) {
    const name = textOf(event.component, 'summary').slice(0, MOST_NAME);
    const called = name === '' ? 'An event without a name' : `“${name}”`;
    try {
      const fault = name === '' ? 'is left out' : faultOf(event);
      const days = fault === undefined ? [...daysOf(event, to)].filter((day) => day >= from) : [];
      for (const day of days) names.set(day, (names.get(day) ?? new Set()).add(name));
      if (fault !== undefined) faults.push(`${called} ${fault}`);
      else if (days.length === 0) faults.push(`${called} lies before ${year} or after ${year + YEARS_AHEAD}`);
    } catch {
      faults.push(`${called} cannot be understood`);
    }
  }
  const holidays = [...names].map(([day, all]) => ({ day, name: [...all].join(', ').slice(0, MOST_NAME) }));
  return { holidays: holidays.sort((a, b) => (a.day < b.day ? -1 : 1)), faults };
}

interface Occurrence {
  item: ICAL.Event;
  startDate: ICAL.Time;
  endDate: ICAL.Time;
}

/** Every day of an event, each time it comes again, until a day. */
function* daysOf(event: ICAL.Event, to: Day): Generator<Day> {
  if (!event.isRecurring()) {
    yield* wholeDays(dayOf(event.startDate), dayOf(event.endDate), to);
    return;
  }
  const times: ICAL.RecurExpansion = event.iterator();
  for (let looked = 0; looked < MOST_TIMES; looked += 1) {
    const next = times.next() as ICAL.Time | null | undefined;
    if (!next || dayOf(next) > to) return;
    const { item, startDate, endDate } = event.getOccurrenceDetails(next) as Occurrence;
    if (!isCalledOff(item.component)) yield* wholeDays(dayOf(startDate), dayOf(endDate), to);
  }
}

function* wholeDays(first: Day, end: Day, to: Day): Generator<Day> {
  if (!isDay(first)) return;
  // An event without an end is one day long (RFC 5545, 3.6.1).
  const until = end > first ? end : addDays(first, 1);
  for (let day = first; day < until && day <= to; day = addDays(day, 1)) yield day;
}
