import fc from 'fast-check';
import {
  ask,
  behind,
  fieldAt,
  isTextual,
  select,
  summarise,
  type Actor,
  type AnyRecord,
  type ObjectKey,
  type Question,
  type QuestionContext,
  type Surroundings,
} from '@zawn/core';
import { Database } from '../database/database';
import { Organisation } from '../organisation/organisation';
import { Caller, startServer, type TestServer } from '../testing';
import { anyFiguresQuestion, anyRecordsQuestion, asked } from './any-question';
import { Gate } from './gate';

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
    name: 'New York on 29 February, week from Sunday',
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

describe.each(worlds)(
  'in $name, the same question',
  ({ today, timeZone, fiscalYearStart, weekStart, unrated }) => {
    let server: TestServer;
    let gate: Gate;
    let actor: Actor;
    let context: QuestionContext;
    let around: Surroundings;
    const everything = new Map<ObjectKey, readonly AnyRecord[]>();

    beforeAll(async () => {
      server = await startServer({ demo: true, today });
      await server.app.get(Database).writer.transaction(async (manager) => {
        await manager.update('organisation', 1, { timeZone, fiscalYearStart, weekStart });
        if (unrated) await manager.delete('rate', { currency: unrated });
      });
      const organisation = server.app.get(Organisation);
      organisation.forget();
      gate = server.app.get(Gate);
      const { id } = await Caller.signIn(server, 'bram.tideswell');
      actor = (await organisation.actor(id)) as Actor;
      context = await gate.context(actor);
      const byId = new Map<string, AnyRecord>();
      const byLink = new Map<string, AnyRecord[]>();
      for (const object of [...asked, 'note', 'person', 'stage', 'pipeline', 'team'] as const) {
        const question: Question = { ...ask(object), columns: ['lists'] };
        const { rows } = await gate.records(actor, question, { offset: 0, limit: EVERYTHING });
        everything.set(object, rows);
        for (const record of rows) {
          byId.set(`${object} ${record.id}`, record);
          for (const [link, value] of Object.entries(record)) {
            if (typeof value !== 'number') continue;
            const name = `${object} ${link} ${value}`;
            const linking = byLink.get(name);
            if (linking) linking.push(record);
            else byLink.set(name, [record]);
          }
        }
      }
      around = {
        find: (object, id) => byId.get(`${object} ${id}`),
        linking: (object, link, id) => byLink.get(`${object} ${link} ${id}`) ?? [],
        rates: await organisation.rates(),
      };
    }, 60_000);
    afterAll(() => server.close());

    const all = (object: ObjectKey) => everything.get(object) ?? [];

    it.each(asked)('selects the same records of %s in SQL and in memory', async (object) => {
      await fc.assert(
        fc.asyncProperty(anyRecordsQuestion(context.catalogue, object), async (question) => {
          const { rows, total, places } = await gate.records(actor, question, {
            offset: 0,
            limit: EVERYTHING,
          });
          const wanted = select(question, all(object), context, around);
          const first = rows.findIndex(({ id }, index) => id !== wanted[index]?.id);
          expect([rows.length, first]).toEqual([wanted.length, -1]);
          expect(total).toBe(new Set(wanted).size);
          expect(places ?? total).toBe(wanted.length);
        }),
        { numRuns: EACH },
      );
    });

    it.each(asked)('tells which of some %s meet each of several conditions', async (object) => {
      const some = all(object).filter(({ id }) => id % 3 !== 0);
      const anyQuestions = fc.array(anyRecordsQuestion(context.catalogue, object), {
        minLength: 2,
        maxLength: 4,
      });
      await fc.assert(
        fc.asyncProperty(anyQuestions, async (questions) => {
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
        fc.asyncProperty(anyFiguresQuestion(context.catalogue, object), async (question) => {
          const { rows, isCut } = await gate.figures(actor, question);
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
        { numRuns: EACH, examples: object === 'activity' ? [[crowded]] : [] },
      );
    });

    it.each(asked)('opens exactly the records of %s behind a figure', async (object) => {
      await fc.assert(
        fc.asyncProperty(anyFiguresQuestion(context.catalogue, object), fc.nat(), async (question, pick) => {
          const counted: Question = { ...question, measures: [{ as: 'count' }] };
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
        }),
        { numRuns: Math.ceil(EACH / 4) },
      );
    });
  },
);
