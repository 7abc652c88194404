import fc from 'fast-check';
import {
  addDays,
  ask,
  contextAsOf,
  dayIn,
  endOfDay,
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
  type RecordsPage,
} from '@zawn/core';
import { Caller, detailOf, startServer, type TestServer } from '../../testing';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { type DayEndRow } from '../../platform/database/rows';
import { keepDayEnds, KeepingDayEnds } from '../jobs/keeping-day-ends';
import { Organisation } from '../organisation/organisation';
import { Door } from '../records/door';
import { DayEnds } from './day-ends';
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
});
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

/** Questions that ask about deals only what is kept of the end of each day, and of what they lead to. */
const anyKeptQuestion = fc
  .record({
    outcome: fc.option(fc.constantFrom('open', 'won', 'lost'), { nil: undefined }),
    least: fc.option(fc.constantFrom(0, 1_000_000, 5_000_000), { nil: undefined }),
    groups: fc.subarray(['stage', 'owner', 'pipeline', 'owner.team', 'currency', 'closeOn', 'probability'], {
      maxLength: 2,
    }),
    of: fc.constantFrom('value', 'weighted'),
  })
  .map(({ outcome, least, groups, of }): Question => ({
    ...ask('deal', {
      join: 'all',
      of: [
        ...(outcome ? [{ field: 'outcome', is: 'anyOf', value: [outcome] } as const] : []),
        ...(least === undefined ? [] : [{ field: 'value', is: 'atLeast', value: least } as const]),
      ],
    }),
    groups: groups.map((field) => (field === 'closeOn' ? { field, by: 'month' } : { field })),
    measures: [{ as: 'count' }, { as: 'sum', of }, { as: 'median', of: 'value' }],
  }));

describe('from the ends of days that are kept', () => {
  const { dayEnds = [] } = objectType('deal');
  const rows = () =>
    server.app
      .get(Database)
      .reading.query<(DayEndRow & { deal: number })[]>(`SELECT * FROM "dealDayEnd" ORDER BY "deal", "from"`);
  const zone = 'Europe/London';
  const isKept = async (day: string, of = zone) =>
    (await server.app.get(DayEnds).fieldsOn('deal', day, of)) !== undefined;
  beforeAll(async () => {
    expect(await isKept(DAYS[3])).toBe(false);
    await server.app.get(KeepingDayEnds).keep();
  });

  it('is what stood there each evening', async () => {
    const all = await rows();
    for (const day of DAYS) {
      expect(await isKept(day)).toBe(true);
      const then = all.filter(({ from, to }) => from <= day && day < to);
      const copied = [...(copies.get(day)?.get('deal') ?? [])].sort((a, b) => a.id - b.id);
      expect(then.map((row) => [row.deal, ...dayEnds.map((field) => row[field])])).toEqual(
        copied.map((deal) => [deal.id, ...dayEnds.map((field) => deal[field] ?? null)]),
      );
    }
  });

  it('sums the same', async () => {
    await fc.assert(
      fc.asyncProperty(anyKeptQuestion, anyMoment, async (any, { day, email }) => {
        const { actor, context, around, all } = await asker(email, day);
        const question: Question = { ...any, asOf: day };
        const { rows: found } = await gate.figures(actor, question);
        const wanted = summarise(question, all('deal'), context, around);
        expect(found.map(({ keys }) => keys)).toEqual(wanted.map(({ keys }) => keys));
        expect(found.map(({ figures }) => figures)).toEqual(wanted.map(({ figures }) => figures));
      }),
      { numRuns: EACH },
    );
  });

  it('is made night by night as it is made at once, and not again without need', async () => {
    const byNight = await rows();
    const { writer } = server.app.get(Database);
    await writer.transaction((manager) => manager.query('DELETE FROM "dealDayEnd"'));
    await writer.transaction((manager) => manager.query('DELETE FROM "dayEndsKept"'));
    await server.app.get(KeepingDayEnds).keep();
    expect(await rows()).toEqual(byNight);
    const ids = [...new Set(byNight.map(({ deal }) => deal))];
    const extent = { through: addDays(TODAY, -1), timeZone: zone };
    expect(await writer.transaction((manager) => keepDayEnds(manager, 'deal', ids, extent))).toBe(0);
  });

  it('is not read of today, nor of the days of another time zone', async () => {
    expect(await isKept(TODAY)).toBe(false);
    expect(await isKept(DAYS[0], 'Asia/Tokyo')).toBe(false);
  });
});

describe('what cannot be told of the past', () => {
  const open = { field: 'outcome', is: 'anyOf', value: ['open'] } as const;
  const ofDeals = (more: object) => ({ ...ask('deal', open), ...more });
  let operations: Caller;
  beforeAll(async () => {
    operations = await Caller.signIn(server, 'bram.tideswell');
  });
  const found = async (question: object) =>
    (await operations.call('post', '/questions/records', { question, limit: 1 }).expect(200))
      .body as RecordsPage;

  it('is named: what is not logged, what hangs on records, and lists', async () => {
    const asked = (field: string) => found(ofDeals({ columns: ['name', field], asOf: DAYS[1] }));
    for (const [field, label] of [
      ['lastTouchAt', 'last touch'],
      ['nextStepOn', 'next step on'],
      ['needsAttention', 'needs attention'],
      ['lists', 'list'],
      ['updatedAt', 'changed'],
      ['account.lastTouchAt', 'account’s last touch'],
    ])
      expect((await asked(field)).leftOut).toEqual([
        { part: field, reason: 'notInPast', at: 'columns', label },
      ]);
    const where = { related: 'activity.deal', is: 'is', value: 0 };
    const { leftOut } = await found({ ...ask('deal'), where, asOf: DAYS[1] });
    expect(leftOut).toMatchObject([{ reason: 'notInPast', at: 'where', label: 'activities' }]);
  });

  it('is refused: a day to come, a day that is none, and objects without a past', async () => {
    for (const [question, says] of [
      [ofDeals({ asOf: '2027-01-01' }), '2027-01-01 has not come yet'],
      [ofDeals({ asOf: '2026-02-30' }), 'no day'],
      [ofDeals({ asOf: { days: 1 } }), ''],
      [ofDeals({ asOf: { unit: 'month', offset: 0 } }), ''],
      [{ ...ask('activity'), asOf: DAYS[1] }, 'How activities stood earlier is not told'],
    ] as const) {
      const response = await operations
        .call('post', '/questions/records', { question, limit: 1 })
        .expect(422);
      expect(detailOf(response)).toContain(says);
    }
  });

  it('is nothing before the first change on file, which is said', async () => {
    const { rows, total, leftOut } = await found(ofDeals({ asOf: '2019-12-31' }));
    expect([rows, total]).toEqual([[], 0]);
    expect(leftOut).toMatchObject([{ reason: 'beforeLog', at: 'where' }]);
  });

  it('is not written to, but is handed out as it was', async () => {
    const question = { ...ask('deal', open), columns: ['name', 'value'], asOf: DAYS[1] };
    const action = { do: 'change', values: { source: null } };
    const selection = { question, except: [] };
    const refused = await operations
      .call('post', '/bulk/preview', { object: 'deal', selection, action })
      .expect(422);
    expect(detailOf(refused)).toContain('nothing can be done with what stood then');
    const design = { question, draw: 'table' };
    const { text } = await operations
      .call('post', '/exports', { design, format: 'csv', fields: 'shown' })
      .expect(200);
    const then =
      copies
        .get(DAYS[1])
        ?.get('deal')
        ?.filter(({ outcome }) => outcome === 'open') ?? [];
    expect(text.trim().split('\n')).toHaveLength(then.length + 1);
    for (const { name } of then) expect(text).toContain(String(name).replaceAll('"', '""'));
  });

  it('ends with the day, also on the nights the clocks change', () => {
    for (const zone of [
      'Europe/London',
      'America/New_York',
      'Pacific/Chatham',
      'America/Havana',
      'Asia/Beirut',
    ])
      for (let day = '2025-12-31'; day < '2027-01-02'; day = addDays(day, 1)) {
        const end = endOfDay(zone, day);
        const next = new Date(Date.parse(end) + 1).toISOString();
        expect([zone, dayIn(zone, end), dayIn(zone, next)]).toEqual([zone, day, addDays(day, 1)]);
      }
  });
});
