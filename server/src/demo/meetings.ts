import { addDays, readyPacks, readyReport, type Day } from '@zawn/core';
import { type Book, type Row } from './book';
import { workday } from './workday';

interface Noted {
  kind: 'decision' | 'task';
  name: string;
  /** Days after the meeting that it was to be done by, and whether it was. */
  within?: number;
  isDone?: true;
}

/** What was noted in the last meeting, each onto another deal of the team. */
const NOTED: readonly Noted[] = [
  { kind: 'decision', name: 'No further discount without a second mast' },
  { kind: 'task', name: 'Ask who signs for the harbour office', within: 6, isDone: true },
  { kind: 'task', name: 'Find out why the date moved again', within: 12 },
  { kind: 'decision', name: 'Offer the calibration with the next contract' },
];
/** What every record has. */
const HEAD = ['id', 'version', 'createdAt', 'createdBy', 'updatedAt', 'deletedAt'];
const DAYS_BETWEEN = 28;
const MORNING = 'T08:10:00.000Z';

/** The coast's monthly meetings: the last one with what was noted, the next one, and a folder that is filled weekly. */
export function holdMeetings(book: Book, today: Day): void {
  const manager = book.rows('person').find(({ name }) => name === 'Maren Ollerby');
  if (!manager) throw new Error('Nobody leads the coast');
  const [id, team] = [Number(manager.id), Number(manager.team)];
  const last = workday(addDays(today, -20));
  const next = workday(addDays(last, DAYS_BETWEEN));
  const by = { at: `${last}${MORNING}`, person: id };
  const shared = { sharing: 'team', team, teams: null, owner: id };

  const folder = book.create('folder', by, { name: 'Coast meetings', parent: null, ...shared });
  const pipeline = readyReport('pipeline-by-stage');
  book.create('snapshotPlan', by, {
    name: 'Open pipeline, by stage',
    folder,
    design: JSON.stringify(pipeline?.design),
    report: null,
    about: pipeline?.about ?? null,
    seenBy: 'each',
    every: 'week',
    weekday: 'mon',
    day: null,
    working: null,
    at: '08:00',
    offDay: 'after',
    paused: false,
    nextAt: null,
    trouble: null,
    ...shared,
  });

  const [monthly] = readyPacks;
  const design = JSON.stringify(monthly.design);
  const packOf = (meetsOn: Day, previous: number | null) =>
    book.create('pack', by, {
      name: `Coast, ${new Intl.DateTimeFormat('en-GB', { month: 'long', year: 'numeric' }).format(new Date(meetsOn))}`,
      meetsOn,
      design,
      previous,
      ...shared,
    });
  const held = packOf(last, null);
  packOf(next, held);

  const deals = dealsTalkedAbout(book, team);
  for (const row of book.rows('activity')) row.pack = null;
  const columns = Object.keys(book.row('activity', 1)).filter((key) => !HEAD.includes(key));
  const blank = Object.fromEntries(columns.map((key) => [key, null]));
  for (const [index, { kind, name, within, isDone }] of NOTED.entries()) {
    const deal = deals[index];
    const owner = kind === 'decision' ? id : Number(deal.owner);
    const dueOn = within === undefined ? last : workday(addDays(last, within));
    const done: Row = within === undefined ? { doneAt: by.at, doneBy: id } : {};
    const noted = { name, kind, dueOn, owner, deal: deal.id, account: deal.account, pack: held, ...done };
    const activity = book.create('activity', by, { ...blank, ...noted });
    if (isDone)
      book.change(
        'activity',
        activity,
        { at: `${dueOn}T14:20:00.000Z`, person: owner },
        { doneAt: `${dueOn}T14:20:00.000Z`, doneBy: owner },
      );
  }
}

/** The largest open deals of a team whose next step is planned: what is noted onto them changes nothing of how they stand. */
function dealsTalkedAbout(book: Book, team: number): Row[] {
  const members = new Set(
    book
      .rows('person')
      .filter((each) => each.team === team)
      .map(({ id }) => id),
  );
  const planned = new Set(
    book
      .rows('activity')
      .filter(({ doneAt }) => doneAt === null)
      .map(({ deal }) => deal),
  );
  return book
    .rows('deal')
    .filter(({ id, outcome, owner }) => outcome === 'open' && members.has(owner) && planned.has(id))
    .sort((a, b) => Number(b.value) - Number(a.value) || Number(a.id) - Number(b.id))
    .slice(0, NOTED.length);
}
