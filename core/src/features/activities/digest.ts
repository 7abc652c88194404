import { addDays, dayIn, instantIn, type Day } from '../../platform/time';

/** One line of a digest. */
export interface DigestLine {
  name: string;
  dueOn: Day;
  /** Hours and minutes. */
  dueAt: string | null;
  /** Who did it, where that was somebody else. */
  by?: string;
}

/** What a day's digest tells one person. */
export interface Digest {
  overdue: readonly DigestLine[];
  today: readonly DigestLine[];
  /** What they did since the digest before. */
  done: readonly DigestLine[];
  /** What others did meanwhile that they had planned. */
  byOthers: readonly DigestLine[];
}

/** Of each part so many lines are told; the rest is counted. */
const MOST_LINES = 20;

/** The next instant after now at which it is a time of the day in a zone. */
export function nextAt(time: string, timeZone: string, now: string): string {
  const today = dayIn(timeZone, now);
  const at = instantIn(timeZone, today, time);
  return at > now ? at : instantIn(timeZone, addDays(today, 1), time);
}

const parts: readonly { key: keyof Digest; title: string; line: (line: DigestLine) => string }[] = [
  { key: 'overdue', title: 'Overdue', line: ({ name, dueOn }) => `${name} (due ${dueOn})` },
  { key: 'today', title: 'Due today', line: ({ name, dueAt }) => (dueAt ? `${dueAt} ${name}` : name) },
  { key: 'done', title: 'Done since yesterday', line: ({ name }) => name },
  { key: 'byOthers', title: 'Done by others for you', line: ({ name, by }) => `${name} (${by})` },
];

/** A digest as a mail; undefined where there is nothing to tell. */
export function digestText(digest: Digest): { subject: string; text: string } | undefined {
  const told = parts.filter(({ key }) => digest[key].length > 0);
  if (told.length === 0) return undefined;
  const paragraphs = told.map(({ key, title, line }) => {
    const all = digest[key];
    const rest = all.length - MOST_LINES;
    return [
      `${title}: ${all.length}`,
      ...all.slice(0, MOST_LINES).map((each) => `- ${line(each)}`),
      ...(rest > 0 ? [`and ${rest} more`] : []),
    ].join('\n');
  });
  const { overdue, today } = digest;
  const counts = [`${today.length} due today`, ...(overdue.length > 0 ? [`${overdue.length} overdue`] : [])];
  return { subject: `Your day: ${counts.join(', ')}`, text: paragraphs.join('\n\n') };
}
