import fc from 'fast-check';
import {
  ask,
  contextAsOf,
  fieldAt,
  isToldInPast,
  objectType,
  pastObjects,
  policyOf,
  scopeCondition,
  select,
  summarise,
  type AnyRecord,
  type Catalogue,
  type FieldValue,
  type ObjectKey,
  type Question,
  type Rate,
} from '@zawn/core';
import { startServer, type TestServer } from '../../testing';
import { Clock } from '../../platform/clock/clock';
import { Organisation } from '../organisation/organisation';
import { Door } from '../records/door';
import { anyFiguresQuestion, anyRecordsQuestion } from './any-question';
import { Gate } from './gate';
import { actorNamed, storedRecords, surroundings, type Records } from './records-in-memory';

/** The days on which something is done; the last is the one on which is asked. */
const DAYS = ['2026-11-19', '2026-11-20', '2026-11-23', '2026-12-01'] as const;
const TODAY = '2026-12-02';
const people = ['bram.tideswell', 'maren.ollerby', 'tamsin.rudd'];
const EACH = Math.ceil(Number(process.env.ZAWN_FUZZ_CASES ?? 1000) / 25);
const EVERYTHING = 1_000_000;

let server: TestServer;
let gate: Gate;
let catalogue: Catalogue;
let rates: readonly Rate[];
/** All records as they were copied in the evening of each day. */
const copies = new Map<string, Records>();

beforeAll(async () => {
  server = await startServer({ demo: true });
  gate = server.app.get(Gate);
  catalogue = await server.app.get(Organisation).catalogue();
  rates = await server.app.get(Organisation).rates();
  for (const day of DAYS) {
    Object.assign(server.app.get(Clock), new Clock(day));
    for (let work = 0; work < 12; work += 1) await somethingIsDone(work + DAYS.indexOf(day) * 100);
    copies.set(day, structuredClone(await storedRecords(server, catalogue)));
  }
  Object.assign(server.app.get(Clock), new Clock(TODAY));
}, 120_000);
afterAll(() => server.close());

/** Values that records are changed to, by what is changed. */
const changes: Record<(typeof pastObjects)[number] | 'person', Record<string, FieldValue[]>> = {
  deal: {
    value: [1_234_500, 0, 99_000_000],
    closeOn: ['2026-10-01', '2027-03-31'],
    probability: [null, 35],
    owner: [5, 6, 7],
    tags: [null, ['old'], ['new', 'with “quotes”']],
    x_siteVisit: [true, false, null],
    x_surveyCost: [null, 250_000],
    account: [3, 4, null],
    source: [null, 'fair'],
    competitors: [null, ['longreach']],
  },
  account: {
    country: ['SE', 'NO', null],
    name: ['Aardvark Ltd', 'Zebra & Sons', 'Ørsted'],
    industry: [null],
    x_stations: [12, null],
    tags: [['wind'], null],
    owner: [5, 6],
  },
  contact: { role: ['Buyer', null, ''], account: [5, 6], tags: [['a'], null] },
  lead: { budget: [null, 5_000_00], organisation: ['Other Ltd', null], country: ['DE', 'SE'], owner: [6, 7] },
  person: { team: [2, 3], name: ['Alva Other', 'Zoe Other'] },
};

/** Changes, deletes and brings back a few records, and adds one: each time other ones, the same in every run. */
async function somethingIsDone(seed: number): Promise<void> {
  const actor = await actorNamed(server, 'bram.tideswell');
  const any = <T>(of: readonly T[], by: number): T => of[(seed * 7 + by * 13) % of.length];
  for (const object of ['deal', 'account', 'contact', 'lead', 'person'] as const) {
    const { rows } = await gate.records(actor, ask(object), { offset: 0, limit: EVERYTHING });
    const fields = Object.entries(changes[object]).filter(([path]) => fieldAt(catalogue, object, path));
    for (let each = 0; each < (object === 'person' ? 1 : 4); each += 1) {
      const [field, values] = any(fields, each);
      const record = any(rows, each + 3);
      const value = any(values, each + seed);
      await server.app
        .get(Door)
        .write({ actor, through: 'hand' }, (unit) => unit.change(object, record.id, { [field]: value }))
        // Some values do not fit some records; what is refused is not written.
        .catch(() => undefined);
    }
    if (object === 'person') continue;
    const gone = any(rows, 17);
    await server.app
      .get(Door)
      .write({ actor, through: 'hand' }, (unit) => unit.remove(object, gone.id))
      .catch(() => undefined);
    const bin = await gate.deleted(actor, object, '', 100);
    if (seed % 3 > 0 && bin.length > 0)
      await server.app
        .get(Door)
        .write({ actor, through: 'hand' }, (unit) => unit.restore(object, any(bin, 5).id))
        .catch(() => undefined);
  }
  await server.app.get(Door).write({ actor, through: 'hand' }, async (unit) => {
    await unit.create('lead', { name: `Added ${seed}`, status: 'untouched', owner: actor.personId });
  });
}

/** Somebody who asks today of what stood on a day, with what was there then of what is within their reach today. */
async function askerOf(email: string, day: string) {
  const actor = await actorNamed(server, email);
  const now = await gate.context(actor);
  const context = contextAsOf(day, now);
  const all = copies.get(day) as Records;
  const seen = new Map<ObjectKey, readonly AnyRecord[]>();
  for (const [object, rows] of all) {
    const ids = rows.map(({ id }) => id);
    // Where everybody's records are seen there is nothing to look up.
    const isAll = scopeCondition(policyOf(actor), object) === undefined;
    const within = isAll ? undefined : await gate.reached(actor, object, ids);
    seen.set(object, within ? rows.filter(({ id }) => within.has(id)) : rows);
  }
  return {
    actor,
    context,
    around: surroundings(seen, rates),
    all: (object: ObjectKey) => seen.get(object) ?? [],
  };
}

type Asker = Awaited<ReturnType<typeof askerOf>>;
const askers = new Map<string, Promise<Asker>>();
const asker = (email: string, day: string): Promise<Asker> => {
  const name = `${email} ${day}`;
  const known = askers.get(name) ?? askerOf(email, day);
  askers.set(name, known);
  return known;
};

const anyMoment = fc.record({ day: fc.constantFrom(...DAYS), email: fc.constantFrom(...people) });

describe('as copies kept in the evening of a day', () => {
  it('has something to tell: the days differ', () => {
    const told = DAYS.map((day) => JSON.stringify(copies.get(day)?.get('deal')));
    expect(new Set(told).size).toBe(DAYS.length);
    const ids = DAYS.map(
      (day) =>
        copies
          .get(day)
          ?.get('deal')
          ?.map(({ id }) => id) ?? [],
    );
    expect(ids[0].some((id) => !ids[3].includes(id))).toBe(true);
    expect(ids[3].some((id) => !ids[0].includes(id))).toBe(true);
  });

  it.each(pastObjects)('every value of all %s', async (object) => {
    for (const day of DAYS) {
      const { actor, all } = await asker('bram.tideswell', day);
      const { rows } = await gate.records(
        actor,
        { ...ask(object), asOf: day },
        { offset: 0, limit: EVERYTHING },
      );
      const told = Object.keys({ ...objectType(object).fields, ...catalogue.custom[object] }).filter(
        (path) =>
          isToldInPast(catalogue, object, path) && fieldAt(catalogue, object, path)?.set !== 'computed',
      );
      const values = (record: AnyRecord) => ['id', ...told].map((key) => [key, record[key] ?? null]);
      expect(rows.map(values)).toEqual([...all(object)].sort((a, b) => a.id - b.id).map(values));
    }
  });

  it.each(pastObjects)('selects the same %s', async (object) => {
    await fc.assert(
      fc.asyncProperty(anyRecordsQuestion(catalogue, object), anyMoment, async (any, { day, email }) => {
        const { actor, context, around, all } = await asker(email, day);
        const question: Question = { ...any, asOf: day };
        const wanted = select(question, all(object), context, around).map(({ id }) => id);
        const { rows, total, places } = await gate.recordsBeside(actor, question, {
          from: undefined,
          limit: EVERYTHING,
        });
        expect(rows.map(({ id }) => id)).toEqual(wanted);
        expect([total, places ?? total]).toEqual([new Set(wanted).size, wanted.length]);
      }),
      { numRuns: EACH },
    );
  });

  it.each(pastObjects)('sums the same %s', async (object) => {
    await fc.assert(
      fc.asyncProperty(anyFiguresQuestion(catalogue, object), anyMoment, async (any, { day, email }) => {
        const { actor, context, around, all } = await asker(email, day);
        const question: Question = { ...any, asOf: day };
        const { rows } = await gate.figures(actor, question, 'leftOut');
        const wanted = summarise(question, all(object), context, around);
        expect(rows.map(({ keys }) => keys)).toEqual(wanted.map(({ keys }) => keys));
        for (const [index, { figures }] of rows.entries())
          for (const [at, figure] of figures.entries()) {
            const other = wanted[index].figures[at];
            if (figure === null || other === null) expect(figure).toBe(other);
            else expect(figure).toBeCloseTo(other, 4);
          }
      }),
      { numRuns: EACH },
    );
  });
});
