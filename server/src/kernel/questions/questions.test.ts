import {
  ask,
  builtIn,
  fieldOf,
  objectKeys,
  objectType,
  policyOf,
  scopeCondition,
  type AnyRecord,
  type FiguresAnswer,
  type Question,
  type RecordsPage,
  heldRole,
  someoneWith,
} from '@zawn/core';
import { Organisation } from '../organisation/organisation';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let operations: Caller;

beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
});
afterAll(() => server.close());

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
    expect([leftOut, total]).toEqual([[{ part: 'shoeSize', reason: 'unknownField', at: 'where' }], 600]);
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
      const owners = asking.roles[0].name === 'Rep' ? [asking.personId] : [...asking.teamPeople];
      for (const object of ['lead', 'contact', 'account', 'deal'] as const) {
        const all = (await operations.records(ask(object))).rows;
        const allowed =
          asking.roles[0].name === 'Operations'
            ? all
            : all.filter(({ owner }) => owners.includes(Number(owner)));
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
    const asking = someoneWith(1, heldRole('rep'));
    // Nobody’s own, but in reach of who reaches what they hang on.
    const others = [
      'membership',
      'dealContact',
      'guideTick',
      'dealLine',
      'checklistItem',
      'activityLink',
      'recordingRemark',
      'share',
      'contactSuggestion',
      'stageStay',
      'loggedChange',
      'assignmentRule',
      'form',
      'captureAddress',
    ];
    for (const object of objectKeys)
      expect([object, scopeCondition(policyOf(asking), object) !== undefined]).toEqual([
        object,
        fieldOf(builtIn, object, 'owner') !== undefined || others.includes(object),
      ]);
  });
});

describe('bad questions', () => {
  const nested = (depth: number): object =>
    depth === 0 ? { field: 'name', is: 'is', value: 'x' } : { join: 'all', of: [nested(depth - 1)] };
  const wide = {
    join: 'any',
    of: Array.from({ length: 60 }, () => ({ join: 'all', of: [nested(0), nested(0), nested(0), nested(0)] })),
  };
  const where = (condition: unknown) => ({ version: 1, object: 'deal', where: condition });
  it.each<[string, unknown]>([
    ['too deep', where(nested(9))],
    ['too wide', where(wide)],
    ['of an unknown object', { version: 1, object: 'spoon' }],
    ['of another version', { version: 7, object: 'deal' }],
    ['with a value of the wrong type', where({ field: 'value', is: 'above', value: 'lots' })],
    ['with an impossible date', where({ field: 'closeOn', is: 'before', value: '2026-02-30' })],
    ['with an operator of another type', where({ field: 'closeOn', is: 'contains', value: 'x' })],
    ['with a list of too many members', where({ field: 'owner', is: 'anyOf', value: Array(6000).fill(1) })],
    ['with an empty list of members', where({ field: 'owner', is: 'anyOf', value: [] })],
    ['that sums a name', { version: 1, object: 'deal', measures: [{ as: 'sum', of: 'name' }] }],
    ['that groups by an amount', { version: 1, object: 'deal', groups: [{ field: 'value' }] }],
    ['with parts that no question has', { version: 1, object: 'deal', sql: 'DROP TABLE deal' }],
    [
      'that mixes two kinds of condition',
      where({ field: 'name', is: 'is', value: 'x', join: 'all', of: [] }),
    ],
    [
      'with a share over related records',
      where({ related: 'activity.deal', figure: { as: 'share' }, is: 'atLeast', value: 1 }),
    ],
  ])('%s are refused, and say where', async (_, question) => {
    const { body, type } = await operations.call('post', '/questions/records', { question }).expect(422);
    expect(type).toBe('application/problem+json');
    expect((body as { faults: { message: string }[] }).faults[0].message.length).toBeGreaterThan(5);
  });

  it.each(["'; DROP TABLE deal; --", '%', '_%_', '\\', '(a+)+$', '"', ')', 'é'.repeat(400)])(
    'text meant as something else (%j) is only text',
    async (value) => {
      const all = (await operations.records(ask('deal'), 1)).total;
      expect(all).toBeGreaterThan(400);
      for (const is of ['contains', 'is', 'startsWith', 'endsWith', 'isNot'] as const) {
        const { total } = await operations.records(ask('deal', { field: 'name', is, value }), 1);
        expect(total).toBe(is === 'isNot' ? all : 0);
      }
    },
  );

  it('a body of ten megabytes is refused', async () => {
    const value = 'x'.repeat(10_000_000);
    const question = ask('deal', { field: 'name', is: 'is', value });
    await operations.call('post', '/questions/records', { question }).expect(413);
  });

  it('jump to a row, and refuse to be told where twice', async () => {
    const question: Question = { ...ask('lead'), sort: [{ field: 'name' }] };
    const whole = (await operations.records(question)).rows.map(({ id }) => id);
    const { body } = await operations
      .call('post', '/questions/records', { question, offset: 400, limit: 10 })
      .expect(200);
    const page = body as RecordsPage;
    expect(page.rows.map(({ id }) => id)).toEqual(whole.slice(400, 410));
    // From where it landed it goes on by its place, although somebody writes in front of it.
    await operations
      .call('post', '/leads', { name: 'Aaa In Front', status: 'untouched', owner: operations.id })
      .expect(201);
    const { body: more } = await operations
      .call('post', '/questions/records', { question, cursor: page.next, limit: 10 })
      .expect(200);
    expect((more as RecordsPage).rows.map(({ id }) => id)).toEqual(whole.slice(410, 420));
    await operations
      .call('post', '/questions/records', { question, offset: 4, cursor: 'after-4' })
      .expect(422);
  });
});

describe('figures', () => {
  it('name the records they are grouped by as far as these are within reach, and say when they are cut', async () => {
    const rep = await Caller.signIn(server, 'tamsin.rudd');
    const { body } = await rep
      .call('post', '/questions/figures', {
        questions: [{ version: 1, object: 'deal', groups: [{ field: 'account' }] }],
      })
      .expect(200);
    const [{ rows, names, isCut }] = (body as { answers: FiguresAnswer[] }).answers;
    const own = new Set((await rep.records(ask('account'))).rows.map(({ id }) => id));
    expect(Object.keys(names.account ?? {}).every((id) => own.has(Number(id)))).toBe(true);
    expect(rows.length).toBeGreaterThan(3);
    expect(isCut).toBe(false);
  });
});
