import fc from 'fast-check';
import {
  ask,
  fieldOf,
  objectKeys,
  objectType,
  operatorsFor,
  periodUnits,
  reachOf,
  select,
  stepsOf,
  summarise,
  type AnyRecord,
  type Condition,
  type Field,
  type Measure,
  type ObjectKey,
  type Operand,
  type Operator,
  type Question,
} from '@zawn/core';
import { Organisation } from '../organisation/organisation';
import { Caller, startServer, TODAY, type TestServer } from '../testing';
import { Gate } from './gate';

let server: TestServer;
let operations: Caller;
const everything = new Map<ObjectKey, AnyRecord[]>();
const byId = new Map<string, AnyRecord>();

beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
  for (const object of [
    'deal',
    'lead',
    'account',
    'contact',
    'person',
    'stage',
    'pipeline',
    'team',
  ] as const) {
    const { rows } = await operations.records(ask(object));
    everything.set(object, rows);
    for (const record of rows) byId.set(`${object} ${record.id}`, record);
  }
});
afterAll(() => server.close());

/** Fields asked about, those behind a link among them. */
const paths: Partial<Record<ObjectKey, string[]>> = {
  deal: [
    'name',
    'value',
    'weighted',
    'probability',
    'closeOn',
    'closedOn',
    'nextStepOn',
    'outcome',
    'lossReason',
    'lostTo',
    'source',
    'owner',
    'stage',
    'createdAt',
    'stageSince',
    'account.country',
    'account.industry',
    'stage.probability',
    'stage.name',
    'owner.name',
    'contact.account.city',
    'lead.source',
  ],
  lead: [
    'name',
    'organisation',
    'email',
    'status',
    'source',
    'budget',
    'timeFrame',
    'country',
    'owner',
    'createdAt',
    'convertedAt',
    'deal.value',
    'account.name',
    'owner.role',
  ],
};

const words = fc.constantFrom('a', 'SEA', 'harbour', 'x', '%', '_', 'Tarnwick', '', 'é', 'data service');
const days = fc.oneof(
  fc.integer({ min: -800, max: 300 }).map((count) => ({ days: count })),
  fc.constantFrom('2026-03-29', '2026-10-25', '2024-02-29', '2025-12-31', TODAY),
);

/** A value that fits an operator on a field. */
function operandFor(is: Operator, field: Field): fc.Arbitrary<Operand | undefined> {
  if (is === 'isEmpty' || is === 'isNotEmpty') return fc.constant(undefined);
  if (is === 'in')
    return fc.record({ unit: fc.constantFrom(...periodUnits), offset: fc.integer({ min: -9, max: 3 }) });
  if (field.type === 'date' || field.type === 'dateTime')
    return is === 'between' ? fc.tuple(days, days) : days;
  if (field.type === 'choice') return fc.subarray(field.choices?.map(({ key }) => key) ?? []);
  if (field.type === 'link')
    return fc.array(fc.oneof(fc.integer({ min: 1, max: 20 }), fc.constantFrom('@me', '@myTeam')), {
      maxLength: 4,
    });
  if (field.type === 'country') return fc.subarray(['GB', 'SE', 'DE', 'FR']);
  if (['number', 'percent', 'money'].includes(field.type)) {
    const number = fc.oneof(fc.integer({ min: 0, max: 100 }), fc.integer({ min: 100_000, max: 9_000_000 }));
    return is === 'between' ? fc.tuple(number, number) : number;
  }
  return words;
}

const lastField = (object: ObjectKey, path: string) => stepsOf(object, path)?.at(-1)?.field as Field;

function conditionFor(object: ObjectKey): fc.Arbitrary<Condition> {
  const test = fc.constantFrom(...(paths[object] ?? [])).chain((path) => {
    const field = lastField(object, path);
    return fc
      .constantFrom(...operatorsFor(field.type))
      .chain((is) =>
        operandFor(is, field).map((value): Condition =>
          value === undefined ? { field: path, is } : { field: path, is, value },
        ),
      );
  });
  return fc.letrec<{ condition: Condition }>((tie) => ({
    condition: fc.oneof(
      { maxDepth: 3, withCrossShrink: true },
      test,
      fc.record({
        join: fc.constantFrom('all', 'any', 'none'),
        of: fc.array(tie('condition'), { minLength: 1, maxLength: 3 }),
      }),
    ),
  })).condition;
}

const questionFor = (object: ObjectKey): fc.Arbitrary<Question> =>
  fc.record({
    version: fc.constant(1 as const),
    object: fc.constant(object),
    where: conditionFor(object),
    sort: fc.uniqueArray(
      fc.record({ field: fc.constantFrom(...(paths[object] ?? [])), descending: fc.boolean() }),
      { maxLength: 3, selector: ({ field }) => field },
    ),
  });

const figuresFor = (object: ObjectKey): fc.Arbitrary<Question> => {
  const money = object === 'deal' ? ['value', 'weighted'] : ['budget'];
  const measure: fc.Arbitrary<Measure> = fc.oneof(
    fc.constant<Measure>({ as: 'count' }),
    fc.record({
      as: fc.constantFrom('sum' as const, 'average' as const, 'least' as const, 'most' as const),
      of: fc.constantFrom(...money),
    }),
  );
  const grouping = fc.record({
    field: fc.constantFrom(...(paths[object] ?? [])),
    by: fc.constantFrom(...periodUnits),
  });
  return fc.record({
    version: fc.constant(1 as const),
    object: fc.constant(object),
    where: conditionFor(object),
    groups: fc.uniqueArray(grouping, { maxLength: 2, selector: ({ field }) => field }),
    measures: fc.array(measure, { minLength: 1, maxLength: 3 }),
  });
};

describe('the same question', () => {
  const surroundings = async () => ({
    find: (object: ObjectKey, id: number) => byId.get(`${object} ${id}`),
    rates: await server.app.get(Organisation).rates(),
  });
  const actor = async () => {
    const found = await server.app.get(Organisation).actor(operations.id);
    if (!found) throw new Error('Nobody is asking');
    return found;
  };

  it.each(['deal', 'lead'] as const)('selects the same %ss in SQL and in memory', async (object) => {
    const gate = server.app.get(Gate);
    const [asking, around] = [await actor(), await surroundings()];
    const context = await gate.context(asking);
    await fc.assert(
      fc.asyncProperty(questionFor(object), async (question) => {
        const { rows, total } = await gate.records(asking, question, { offset: 0, limit: 1000 });
        const wanted = select(question, everything.get(object) ?? [], context, around);
        expect(rows.map(({ id }) => id)).toEqual(wanted.map(({ id }) => id));
        expect(total).toBe(wanted.length);
      }),
      { numRuns: 250 },
    );
  });

  it.each(['deal', 'lead'] as const)('sums the same %ss in SQL and in memory', async (object) => {
    const gate = server.app.get(Gate);
    const [asking, around] = [await actor(), await surroundings()];
    const context = await gate.context(asking);
    await fc.assert(
      fc.asyncProperty(figuresFor(object), async (question) => {
        const rows = await gate.figures(asking, question);
        const wanted = summarise(question, everything.get(object) ?? [], context, around);
        expect(rows.map(({ keys }) => keys)).toEqual(wanted.map(({ keys }) => keys));
        for (const [index, row] of rows.entries()) {
          for (const [at, figure] of row.figures.entries()) {
            const other = wanted[index].figures[at];
            if (figure === null || other === null) expect(figure).toBe(other);
            else expect(figure).toBeCloseTo(other, 4);
          }
        }
      }),
      { numRuns: 150 },
    );
  });
});

describe('pages', () => {
  it('follow one another by cursor without a gap', async () => {
    const question: Question = { ...ask('lead'), sort: [{ field: 'organisation' }] };
    const ids: number[] = [];
    let cursor: string | undefined;
    do {
      const { body } = await operations
        .call('post', '/questions/records', { question, limit: 130, ...(cursor ? { cursor } : {}) })
        .expect(200);
      const page = body as { rows: AnyRecord[]; next: string | null; total: number };
      expect(page.total).toBe(600);
      ids.push(...page.rows.map(({ id }) => id));
      cursor = page.next ?? undefined;
    } while (cursor);
    expect(new Set(ids).size).toBe(600);
  });

  it('refuse a cursor that is none, a page too long, and a question that is none', async () => {
    await operations.call('post', '/questions/records', { question: ask('lead'), cursor: 'x' }).expect(400);
    await operations.call('post', '/questions/records', { question: ask('lead'), limit: 5000 }).expect(422);
    const { body } = await operations
      .call('post', '/questions/records', {
        question: ask('lead', { field: 'owner', is: 'contains', value: 'x' }),
      })
      .expect(422);
    expect(body).toMatchObject({
      faults: [{ field: 'where.is', message: 'Owner cannot be compared with “contains”' }],
    });
  });

  it('say which parts of a question were left out', async () => {
    const { leftOut, total } = await operations.records(
      ask('lead', { field: 'shoeSize', is: 'is', value: 4 }),
      1,
    );
    expect([leftOut, total]).toEqual([['shoeSize'], 600]);
  });
});

describe('the gate', () => {
  it('shows, counts, sums and finds for each role exactly what is within its reach', async () => {
    const people = [
      'tamsin.rudd',
      'davin.marchbank',
      'lars.westerholt',
      'maren.ollerby',
      'signe.abernock',
      'bram.tideswell',
    ];
    for (const email of people) {
      const caller = await Caller.signIn(server, email);
      const asking = await server.app.get(Organisation).actor(caller.id);
      if (!asking) throw new Error('Nobody is asking');
      const owners = asking.role === 'rep' ? [asking.personId] : [...asking.teamPeople];
      for (const object of ['lead', 'contact', 'account', 'deal'] as const) {
        const all = (await operations.records(ask(object))).rows;
        const allowed =
          asking.role === 'operations' ? all : all.filter(({ owner }) => owners.includes(Number(owner)));
        const { rows, total } = await caller.records(ask(object));
        expect(rows.map(({ id }) => id).sort()).toEqual(allowed.map(({ id }) => id).sort());
        expect(total).toBe(allowed.length);
        expect((await caller.figures(ask(object)))[0].figures).toEqual([allowed.length]);
        const hidden = all.find(({ id }) => !allowed.some((record) => record.id === id));
        if (!hidden) continue;
        await caller.call('get', `/${objectType(object).path}/${hidden.id}`).expect(404);
        await caller.call('get', `/${objectType(object).path}/${hidden.id}/timeline`).expect(404);
        const { body } = await caller
          .call('get', `/search?q=${encodeURIComponent(String(hidden.name))}`)
          .expect(200);
        const hits = (body as { hits: { object: string; id: number }[] }).hits;
        expect(hits.some((hit) => hit.object === object && hit.id === hidden.id)).toBe(false);
      }
    }
  });

  it('does not let a hidden record be guessed at through a link', async () => {
    const rep = await Caller.signIn(server, 'tamsin.rudd');
    const question = ask('deal', { field: 'account.owner', is: 'isNotEmpty' });
    const { rows } = await rep.records(question);
    const own = new Set((await rep.records(ask('account'))).rows.map(({ id }) => id));
    expect(rows.every(({ account }) => own.has(Number(account)))).toBe(true);
  });

  it('is one rule for every object that has an owner', () => {
    const asking = { personId: 1, role: 'rep' as const, teamPeople: [1] };
    for (const object of objectKeys)
      expect([object, reachOf(asking, object) !== undefined]).toEqual([
        object,
        fieldOf(object, 'owner') !== undefined,
      ]);
  });
});
