import {
  ask,
  type ApiToken,
  type AnyRecord,
  type AssignmentTrial,
  type Condition,
  type NewApiToken,
  type NoticesPage,
  type Question,
  type RecordsPage,
  type Usage,
  type Written,
} from '@zawn/core';
import request from 'supertest';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let manager: Caller;
let operations: Caller;
let hidden = 0;

beforeAll(async () => {
  server = await startServer({ demo: true });
  manager = await Caller.signIn(server, 'maren.ollerby');
  operations = await Caller.signIn(server, 'bram.tideswell');
  const rep = await Caller.signIn(server, 'tamsin.rudd');
  const { body } = await rep
    .call('post', '/lists', { name: 'Mine alone', object: 'contact', sharing: 'private' })
    .expect(201);
  hidden = (body as Written<AnyRecord>).value.id;
});
afterAll(() => server.close());

const name: Condition = { field: 'name', is: 'contains', value: 'a' };
/** Every kind of part that cannot be asked, where it may stand. */
const broken: [string, () => Condition, string][] = [
  ['an unknown field', () => ({ field: 'shoeSize', is: 'is', value: 4 }), 'shoeSize'],
  ['an unknown field behind a link', () => ({ field: 'account.shoeSize', is: 'is', value: 4 }), 'shoeSize'],
  ['an unknown relation', () => ({ related: 'shoe.contact', is: 'atLeast', value: 1 }), 'shoe.contact'],
  [
    'an unknown field of related records',
    () => ({
      related: 'deal.contact',
      where: { field: 'shoeSize', is: 'is', value: 4 },
      is: 'atLeast',
      value: 1,
    }),
    'shoeSize',
  ],
  [
    'an unknown field of a figure',
    () => ({ related: 'deal.contact', figure: { as: 'sum', of: 'shoeSize' }, is: 'atLeast', value: 1 }),
    'shoeSize',
  ],
  ['a list that is gone', () => ({ field: 'lists', is: 'anyOf', value: [99_999] }), '99999'],
  ['a list not shared with one', () => ({ field: 'lists', is: 'anyOf', value: [hidden] }), ''],
  [
    'none of a list that is gone',
    () => ({ join: 'none', of: [{ field: 'lists', is: 'anyOf', value: [99_999] }] }),
    '99999',
  ],
  [
    'one part of several',
    () => ({ join: 'all', of: [name, { field: 'shoeSize', is: 'is', value: 4 }] }),
    'shoeSize',
  ],
];
const asked = (where: Condition): Question => ({ ...ask('contact', where), columns: ['name'] });
const everyone = async () => (await operations.records(ask('contact'), 1)).total;

describe('a condition that cannot be asked', () => {
  const actions: [string, (list: number) => object][] = [
    ['delete', () => ({ do: 'delete' })],
    ['change', () => ({ do: 'change', values: { title: 'Everybody' } })],
    ['tag', () => ({ do: 'tag', add: ['all'], remove: [] })],
    ['plan', () => ({ do: 'plan', activity: { name: 'Call', kind: 'call', dueOn: '2026-12-01' } })],
    ['put on a list', (list) => ({ do: 'addToList', list })],
    ['take off a list', (list) => ({ do: 'takeFromList', list })],
  ];

  it.each(broken)('%s: nothing is done to all that match, and the part is named', async (_, where, named) => {
    const part = named || String(hidden);
    const before = await everyone();
    const { body } = await manager
      .call('post', '/lists', { name: `For ${part}`, object: 'contact', sharing: 'private' })
      .expect(201);
    const list = (body as Written<AnyRecord>).value.id;
    for (const [action, of] of actions)
      for (const path of ['/bulk', '/bulk/preview']) {
        const selection = { question: asked(where()) };
        const answer = await manager.call('post', path, { object: 'contact', selection, action: of(list) });
        expect([action, path, answer.status]).toEqual([action, path, 422]);
        expect(JSON.stringify(answer.body)).toContain(part);
      }
    expect(await everyone()).toBe(before);
    const { rows } = await manager.records(ask('contact', { field: 'lists', is: 'anyOf', value: [list] }));
    expect(rows).toEqual([]);
  });

  it.each(broken)('%s: no file is handed out', async (_, where, named) => {
    const part = named || String(hidden);
    const design = { draw: 'table', question: asked(where()) };
    for (const format of ['csv', 'xlsx', 'vcard']) {
      const answer = await manager.call('post', '/exports', { design, format, fields: 'all' });
      expect([format, answer.status]).toEqual([format, 422]);
      expect(JSON.stringify(answer.body)).toContain(part);
    }
    const question = { ...ask('contact'), columns: ['name'] };
    const selection = { question: asked(where()) };
    const whole = { draw: 'table', question };
    await manager
      .call('post', '/exports', { design: whole, selection, format: 'csv', fields: 'all' })
      .expect(422);
  });

  it.each(broken)('%s: a page says that it was left out', async (_, where, named) => {
    const part = named || String(hidden);
    const { leftOut } = await manager.records(asked(where()), 1);
    expect(leftOut.map((left) => [left.at, left.part.includes(part)])).toEqual([['where', true]]);
  });

  it.each(broken)('%s: a program is told instead of being given more', async (_, where) => {
    const { body } = await manager.call('post', '/tokens', { name: 'Reader', scope: 'read' }).expect(201);
    const { secret, id } = body as NewApiToken & ApiToken;
    const post = (path: string, of: object) =>
      request(server.app.getHttpServer())
        .post(`/api/v1/questions/${path}`)
        .set({ Authorization: `Bearer ${secret}` })
        .send(of);
    await post('records', { question: asked(where()) }).expect(422);
    await post('figures', { questions: [asked(where())] }).expect(422);
    await post('records', { question: ask('contact') }).expect(200);
    await manager.call('post', `/tokens/${id}/revoke`).expect(204);
  });

  it('a program pages by cursor alone', async () => {
    const { body } = await manager.call('post', '/tokens', { name: 'Pager', scope: 'read' }).expect(201);
    const { secret, id } = body as NewApiToken & ApiToken;
    const pageFrom = (from: object) =>
      request(server.app.getHttpServer())
        .post('/api/v1/questions/records')
        .set({ Authorization: `Bearer ${secret}` })
        .send({ question: ask('contact'), limit: 2, ...from });
    const { body: refused } = await pageFrom({ offset: 2 }).expect(422);
    expect(refused).toMatchObject({ faults: [{ field: 'offset' }] });
    const { body: first } = await pageFrom({}).expect(200);
    const { body: second } = await pageFrom({ cursor: (first as RecordsPage).next }).expect(200);
    const { rows } = await manager.records(ask('contact'), 4);
    expect([first, second].flatMap((page) => (page as RecordsPage).rows.map((row) => row.id))).toEqual(
      rows.map((row) => row.id),
    );
    await manager.call('post', `/tokens/${id}/revoke`).expect(204);
  });

  it('a column that is gone keeps back a file that would show it, and no action', async () => {
    const question = { ...ask('contact', name), columns: ['name', 'shoeSize'] };
    const design = { draw: 'table', question };
    await manager.call('post', '/exports', { design, format: 'csv', fields: 'shown' }).expect(422);
    await manager.call('post', '/exports', { design, format: 'csv', fields: 'all' }).expect(200);
    const action = { do: 'tag', add: ['seen'], remove: [] };
    await manager
      .call('post', '/bulk/preview', { object: 'contact', selection: { question }, action })
      .expect(200);
  });

  it('a condition that is not finished keeps back what would be done to all', async () => {
    const selection = { question: { ...ask('contact'), where: { field: 'name', is: 'contains' } } };
    const { body } = await manager
      .call('post', '/bulk', { object: 'contact', selection, action: { do: 'delete' } })
      .expect(422);
    expect(body).toMatchObject({ detail: expect.stringContaining('Name has no value yet') as string });
  });
});

describe('rules about a field that is gone', () => {
  const idOf = (person: string) => operations.session.people.find((each) => each.name === person)?.id ?? 0;

  it('count for nobody, say so, and hold up no lead', async () => {
    const { body: made } = await operations
      .call('post', '/custom-fields', {
        object: 'lead',
        key: 'x_pier',
        label: 'Pier length',
        type: 'number',
        required: false,
        position: 90,
        retired: false,
      })
      .expect(201);
    const field = (made as Written<AnyRecord>).value;
    const condition = JSON.stringify({ field: 'x_pier', is: 'isEmpty' });
    const { body: ruled } = await operations
      .call('post', '/assignment-rules', {
        name: 'Piers',
        condition,
        to: 'person',
        person: idOf('Nora Fairlough'),
        position: 0,
        active: true,
      })
      .expect(201);
    const rule = (ruled as Written<AnyRecord>).value;
    await operations
      .call('post', '/score-rules', { name: 'Pier points', condition, points: 7, active: true })
      .expect(201);
    const trial = async () => {
      const { body } = await operations.call('post', '/assignment/try', {}).expect(200);
      return body as AssignmentTrial;
    };
    expect(await trial()).toMatchObject({ rule: rule.id, asleep: [] });

    const { body: usage } = await operations.call('get', `/custom-fields/${field.id}/usage`).expect(200);
    expect((usage as Usage).rules).toEqual(['the assignment rule “Piers”', 'the score rule “Pier points”']);
    await manager.call('get', `/custom-fields/${field.id}/usage`).expect(403);

    await operations.against(1, 'patch', `/custom-fields/${field.id}`, { retired: true }).expect(200);
    const without = await trial();
    expect(without.rule).not.toBe(rule.id);
    expect(without.asleep).toEqual([{ id: rule.id, why: 'There is no field “x_pier” any more' }]);
    const { body: notices } = await operations.call('get', '/notices').expect(200);
    const texts = (notices as NoticesPage).rows.filter(({ kind }) => kind === 'ruleAsleep');
    expect(texts.map(({ text, path }) => [text, path])).toEqual([
      [
        'The score rule Pier points no longer works: it asks about “Pier length”, which is gone',
        '/setup/scores',
      ],
      [
        'The assignment rule Piers no longer works: it asks about “Pier length”, which is gone',
        '/setup/assignment',
      ],
    ]);

    const { body: token } = await operations
      .call('post', '/tokens', { name: 'Web', scope: 'leads' })
      .expect(201);
    const { body: lead } = await request(server.app.getHttpServer())
      .post('/api/v1/leads')
      .set({ Authorization: `Bearer ${(token as NewApiToken).secret}` })
      .send({ name: 'Came all the same' })
      .expect(201);
    expect((lead as Written<AnyRecord>).value.owner).not.toBe(idOf('Nora Fairlough'));
  });

  it('compare money at the rates, whatever currency the lead names', async () => {
    const { body } = await operations
      .call('post', '/assignment-rules', {
        name: 'Large budgets',
        condition: JSON.stringify({ field: 'budget', is: 'atLeast', value: 100_000 }),
        to: 'person',
        person: idOf('Ewan Castellin'),
        position: 0,
        active: true,
      })
      .expect(201);
    const rule = (body as Written<AnyRecord>).value.id;
    const isMet = async (values: object) => {
      const answer = await operations.call('post', '/assignment/try', values).expect(200);
      return (answer.body as AssignmentTrial).tried.find(({ id }) => id === rule)?.isMet;
    };
    expect(await isMet({ budget: 200_000, currency: 'SEK' })).toBe(false);
    expect(await isMet({ budget: 200_000, currency: 'EUR' })).toBe(true);
    expect(await isMet({ budget: 200_000, currency: 'GBP' })).toBe(true);
  });
});
