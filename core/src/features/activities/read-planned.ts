import { type Choice } from '../../kernel/catalogue';
import { readWhen, type Day, type When, type WorkingCalendar } from '../../platform/time';

/** Something to be planned, as it was said in one line. */
export interface SaidPlan {
  /** The type of the activity. */
  kind: string;
  /** Whom it is with, as they were called. */
  about: string;
  /** Undefined where what stands for it is no day or time. */
  when: When | undefined;
  /** What stands for the day and time. */
  whenWords: string;
}

/** What else a type that comes with Zawn is called in a line. */
const VERBS: Readonly<Record<string, readonly string[]>> = {
  call: ['call', 'ring', 'phone'],
  meeting: ['meet', 'meeting', 'meeting with'],
};

const LOOKS_LIKE_TIME = /\d{1,2}[:.]\d{2}$|\b\d{1,2}\s?(?:am|pm)$/;

/**
 * Reads `call Thea Thu 10:00`: a type of activity, whom it is with, and when.
 * @param types those that can be planned.
 * @returns nothing where it is no such line.
 */
export function readPlanned(
  text: string,
  types: readonly Choice[],
  today: Day,
  calendar?: WorkingCalendar,
): SaidPlan | undefined {
  const words = text.trim().split(/\s+/);
  const said = words.join(' ').toLowerCase();
  const verbs = types
    .flatMap(({ key, label }) => (VERBS[key] ?? [label.toLowerCase()]).map((verb) => ({ key, verb })))
    .toSorted((a, b) => b.verb.length - a.verb.length);
  const found = verbs.find(({ verb }) => said.startsWith(`${verb} `));
  if (!found) return undefined;
  const rest = words.slice(found.verb.split(' ').length);
  // The longest end that says when; somebody stands before it.
  for (let from = 1; from < rest.length; from += 1) {
    const whenWords = rest.slice(from).join(' ');
    const when = readWhen(whenWords, today, calendar);
    if (when) return { kind: found.key, about: rest.slice(0, from).join(' '), when, whenWords };
  }
  if (rest.length < 2 || !LOOKS_LIKE_TIME.test(said)) return undefined;
  const isDayBefore = rest.length > 2 && readWhen(rest[rest.length - 2], today, calendar) !== undefined;
  const at = rest.length - (isDayBefore ? 2 : 1);
  return {
    kind: found.key,
    about: rest.slice(0, at).join(' '),
    when: undefined,
    whenWords: rest.slice(at).join(' '),
  };
}
