import fc from 'fast-check';
import {
  ask,
  behind,
  fieldAt,
  holds,
  isTextual,
  policyOf,
  runnable,
  scopeCondition,
  select,
  summarise,
  type Actor,
  type AnyRecord,
  type Catalogue,
  type ObjectKey,
  type Question,
  type QuestionContext,
  type Rate,
  type Surroundings,
} from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { Organisation } from '../organisation/organisation';
import { startServer, type TestServer } from '../../testing';
import { anyFiguresQuestion, anyRecordsQuestion, asked } from './any-question';
import { Gate } from './gate';
import { actorNamed, storedRecords, surroundings, type Records } from './records-in-memory';

/** Days and calendars that are easily got wrong. */
const worlds = [
  {
    name: 'London, fiscal year from April',
    today: '2026-11-19',
    timeZone: 'Europe/London',
    fiscalYearStart: 4,
    weekStart: 1,
  },
  {
    name: 'New York on 29 February, week from Sunday, most activities in the bin',
    bins: true,
    today: '2028-02-29',
    timeZone: 'America/New_York',
    fiscalYearStart: 7,
    weekStart: 0,
  },
  {
    name: 'Chatham on a day the clocks change, without a rate for kronor',
    unrated: 'SEK',
    today: '2026-09-27',
    timeZone: 'Pacific/Chatham',
    fiscalYearStart: 1,
    weekStart: 6,
  },
];

/** More groups than are answered. */
const crowded: Question = {
  ...ask('activity'),
  groups: [{ field: 'contact.name' }, { field: 'dueOn', by: 'day' }],
  measures: [{ as: 'count' }, { as: 'share' }],
};

/** Cases in all, records and figures together; `npm run fuzz` asks for more. */
const CASES = Number(process.env.ZAWN_FUZZ_CASES ?? 1000);
const EACH = Math.ceil(CASES / worlds.length / asked.length / 2);
const EVERYTHING = 1_000_000;

let server: TestServer;
let gate: Gate;
beforeAll(async () => {
  server = await startServer({ demo: true });
  gate = server.app.get(Gate);
}, 60_000);
afterAll(() => server.close());

/** Somebody who asks, and what is theirs to see: found here without the SQL that is checked. */
interface Asker {
  actor: Actor;
  context: QuestionContext;
  around: Surroundings;
  all: (object: ObjectKey) => readonly AnyRecord[];
}

/** The lists each record is on, of those shared with somebody. */
async function listsOf({ lists }: QuestionContext): Promise<Map<string, number[]>> {
  const { reading } = server.app.get(Database);
  const members = await reading.query<{ object: string; record: number; list: number }[]>(
    'SELECT l.object, m.record, m.list FROM "listMember" m JOIN "list" l ON l.id = m.list AND l."deletedAt" IS NULL ORDER BY m.list',
  );
  const found = new Map<string, number[]>();
  for (const { object, record, list } of members) {
    const name = `${object} ${record}`;
    if (lists.includes(list)) found.set(name, [...(found.get(name) ?? []), list]);
  }
  return found;
}

/** Somebody who asks, with what is within their reach of all there is. */
async function askerNamed(email: string, everything: Records, rates: readonly Rate[]): Promise<Asker> {
  const actor = await actorNamed(server, email);
  const context = await gate.context(actor);
  const whole = surroundings(everything, rates);
  const lists = await listsOf(context);
  const visible = new Map<ObjectKey, readonly AnyRecord[]>();
  for (const [object, rows] of everything) {
    const reach = scopeCondition(policyOf(actor), object);
    const within = rows.filter((record) => !reach || holds(reach, object, record, context, whole));
    visible.set(
      object,
      within.map((record) => ({ ...record, lists: lists.get(`${object} ${record.id}`) ?? null })),
    );
  }
  return {
    actor,
    context,
    around: surroundings(visible, rates),
    all: (object) => visible.get(object) ?? [],
  };
}

/** One who sees everything, one who sees a team's records, and one who sees their own. */
const people = ['bram.tideswell', 'maren.ollerby', 'tamsin.rudd'];
const anyAsker = fc.nat({ max: people.length - 1 });

describe.each(worlds)('in $name, the same question', (world) => {
  const { today, timeZone, fiscalYearStart, weekStart, unrated, bins } = world;
  let askers: Asker[] = [];
  let catalogue: Catalogue;

  beforeAll(async () => {
    await server.app.get(Database).writer.transaction(async (manager) => {
      await manager.update('organisation', 1, { timeZone, fiscalYearStart, weekStart });
      if (unrated) await manager.delete('rate', { currency: unrated });
      if (bins) await manager.query('UPDATE activity SET "deletedAt" = "updatedAt" WHERE id % 3 > 0');
    });
    const organisation = server.app.get(Organisation);
    organisation.forget();
    Object.assign(server.app.get(Clock), new Clock(today));
    catalogue = await organisation.catalogue();
    const everything = await storedRecords(server, catalogue);
    const rates = await organisation.rates();
    askers = await Promise.all(people.map((email) => askerNamed(email, everything, rates)));
  }, 60_000);

  it.each(asked)('selects the same records of %s in SQL and in memory', async (object) => {
    await fc.assert(
      fc.asyncProperty(anyRecordsQuestion(catalogue, object), anyAsker, async (question, who) => {
        const { actor, context, around, all } = askers[who];
        const wanted = select(question, all(object), context, around).map(({ id }) => id);
        const page = { offset: 0, limit: EVERYTHING };
        // Where a part is left out, or records come several times, only a page is answered.
        const isPaged =
          question.sort?.some(({ each }) => each) || runnable(question, context).leftOut.length > 0;
        if (isPaged) {
          const beside = { from: undefined, limit: EVERYTHING };
          const { rows, total, places } = await gate.recordsBeside(actor, question, beside);
          expect(rows.map(({ id }) => id)).toEqual(wanted);
          expect([total, places ?? total]).toEqual([new Set(wanted).size, wanted.length]);
        } else {
          expect(await gate.ids(actor, question, page)).toEqual(wanted);
          expect(await gate.count(actor, question)).toBe(wanted.length);
        }
      }),
      { numRuns: EACH },
    );
  });

  it.each(asked)('tells which of some %s meet each of several conditions', async (object) => {
    const anyQuestions = fc.array(anyRecordsQuestion(catalogue, object), {
      minLength: 2,
      maxLength: 4,
    });
    await fc.assert(
      fc.asyncProperty(anyQuestions, anyAsker, async (questions, who) => {
        const { actor, context, around, all } = askers[who];
        const some = all(object).filter(({ id }) => id % 3 !== 0);
        const conditions = questions.flatMap(({ where }) => where ?? []);
        const met = await gate.meeting(
          actor,
          object,
          conditions,
          some.map(({ id }) => id),
        );
        const wanted = conditions.map((where) => select(ask(object, where), some, context, around));
        expect(met.map((ids) => [...ids].sort((a, b) => a - b))).toEqual(
          wanted.map((records) => records.map(({ id }) => id).sort((a, b) => a - b)),
        );
      }),
      { numRuns: Math.ceil(EACH / 4) },
    );
  });

  it.each(asked)('sums the same records of %s in SQL and in memory', async (object) => {
    await fc.assert(
      fc.asyncProperty(anyFiguresQuestion(catalogue, object), anyAsker, async (question, who) => {
        const { actor, context, around, all } = askers[who];
        const { rows, isCut } = await gate.figures(actor, question, 'leftOut');
        const every = summarise(question, all(object), context, around);
        // More groups than are answered: those that are have to be among them, as they are in memory.
        const answered = new Set(rows.map(({ keys }) => JSON.stringify(keys)));
        const wanted = isCut ? every.filter(({ keys }) => answered.has(JSON.stringify(keys))) : every;
        expect(isCut).toBe(every.length > rows.length);
        expect(rows.map(({ keys }) => keys)).toEqual(wanted.map(({ keys }) => keys));
        for (const [index, row] of rows.entries()) {
          for (const [at, figure] of row.figures.entries()) {
            // A share is one of what is answered.
            if (isCut && question.measures?.[at].as === 'share') continue;
            const other = wanted[index].figures[at];
            if (figure === null || other === null) expect(figure).toBe(other);
            else expect(figure).toBeCloseTo(other, 4);
          }
        }
      }),
      { numRuns: EACH, examples: object === 'activity' ? [[crowded, 0]] : [] },
    );
  });

  it.each(asked)('opens exactly the records of %s behind a figure', async (object) => {
    await fc.assert(
      fc.asyncProperty(
        anyFiguresQuestion(catalogue, object),
        fc.nat(),
        anyAsker,
        async (question, pick, who) => {
          const { actor, context } = askers[who];
          const { first: _first, ...all } = question;
          const counted: Question = { ...all, measures: [{ as: 'count' }] };
          const { rows } = await gate.figures(actor, counted);
          if (rows.length === 0 || question.groups?.length === 0) return;
          const { keys, figures } = rows[pick % rows.length];
          const opened = behind(counted, keys, context.catalogue, context.calendar);
          const isText = question.groups?.some(({ field }) => {
            const type = fieldAt(context.catalogue, object, field)?.type;
            return type !== undefined && isTextual(type);
          });
          // Text is compared without regard to case, so that a group of it may open its twin in capitals too.
          const count = await gate.count(actor, opened);
          if (isText) expect(count).toBeGreaterThanOrEqual(Number(figures[0]));
          else expect(count).toBe(figures[0]);
        },
      ),
      { numRuns: Math.ceil(EACH / 4) },
    );
  });
});
