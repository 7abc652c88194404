import { ask, holds, select, systemActor, type AnyRecord, type Condition, type Question } from '@zawn/core';
import { Gate } from './gate';
import { Database } from '../../platform/database/database';
import { Organisation } from '../organisation/organisation';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let operations: Caller;
const names = [
  'ΟΔΟΣ Λιμένος',
  'οδος λιμενος',
  'Caf\u00e9 Quay',
  'Cafe\u0301 Quay',
  'Straßenmeisterei',
  'STRASSENMEISTEREI',
  'Großhafen',
  'Weiss',
  'Weiß',
  'ŁÓDŹ Port',
  'Łódź port',
  'plain harbour',
  'Öland Ferry',
  'Oland Ferry',
  'Zeebrugge',
  'İzmir Liman',
  'Ilıca',
  'Chomutov',
  'Cz Trade',
];

beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
  for (const name of names)
    await operations.call('post', '/leads', { name, status: 'untouched', owner: operations.id }).expect(201);
});
afterAll(() => server.close());

const operators = ['is', 'isNot', 'contains', 'startsWith', 'endsWith'] as const;
const wanted = [
  ...names,
  'οδόσ',
  'ΟΔΟς',
  'CAFÉ',
  'cafe',
  'e\u0301',
  'é',
  'strasse',
  'straße',
  'ss',
  's',
  'ß',
  'weiss',
  'łódź',
  'PORT',
  'Harbour',
  '%',
  '_',
];

it.each(operators)(
  'text that %s another is found whatever its letters are written as, in SQL as in memory',
  async (is) => {
    const { rows } = await operations.records(ask('lead'));
    const context = await server.app.get(Gate).context(systemActor);
    const around = { find: () => undefined, linking: () => [], rates: [] };
    for (const value of wanted) {
      const where: Condition = { field: 'name', is, value };
      const found = (await operations.records(ask('lead', where))).rows.map(({ id }) => id);
      const meant = rows
        .filter((lead: AnyRecord) => holds(where, 'lead', lead, context, around))
        .map(({ id }) => id);
      expect([value, found]).toEqual([value, meant]);
    }
  },
);

it.each([
  ['straße', 2],
  ['STRASSE', 2],
  ['οδος', 2],
  ['ΟΔΟΣ', 2],
  ['CAFÉ', 2],
  ['weiß', 2],
  ['łódź', 2],
])('%s is found %i times', async (value, times) => {
  const { total } = await operations.records(ask('lead', { field: 'name', is: 'startsWith', value }));
  expect(total).toBe(times);
});

describe.each(['GB', 'SE', 'PL', 'TR', 'CZ', 'EE'])('text in the order of the language of %s', (country) => {
  beforeAll(async () => {
    const { writer } = server.app.get(Database);
    await writer.transaction((manager) => manager.query('UPDATE organisation SET country = ?', [country]));
    server.app.get(Organisation).forget();
  });

  it.each<[string, Question]>([
    ['a name, kept in order', { ...ask('lead'), sort: [{ field: 'name' }] }],
    ['a name from the end', { ...ask('lead'), sort: [{ field: 'name', descending: true }] }],
    ['a text that is not kept in order', { ...ask('lead'), sort: [{ field: 'city' }, { field: 'name' }] }],
    ['a name behind a link', { ...ask('deal'), sort: [{ field: 'account' }] }],
    ['a field behind a link', { ...ask('deal'), sort: [{ field: 'account.name' }] }],
    ['tags', { ...ask('account'), sort: [{ field: 'tags' }] }],
  ])('is the same in SQL as in memory: %s', async (_, question) => {
    const { rows } = await operations.records(ask(question.object));
    const accounts = (await operations.records(ask('account'))).rows;
    const context = await server.app.get(Gate).context(systemActor);
    const byId = new Map(accounts.map((account) => [account.id, account]));
    const around = {
      find: (object: string, id: number) => (object === 'account' ? byId.get(id) : undefined),
      linking: () => [],
      rates: [],
    };
    const found = (await operations.records(question)).rows.map(({ id }) => id);
    expect(found).toEqual(select(question, rows, context, around).map(({ id }) => id));
  });
});

it('keeps in order a name that is changed', async () => {
  const { reading } = server.app.get(Database);
  const lead = async (name: string) => {
    const { rows } = await operations.records(ask('lead', { field: 'name', is: 'is', value: name }));
    const [{ nameOrder }] = await reading.query<{ nameOrder: string | null }[]>(
      'SELECT "nameOrder" FROM lead WHERE id = ?',
      [rows[0].id],
    );
    return { ...rows[0], nameOrder };
  };
  const change = async (from: string, to: string) => {
    const { id, version } = await lead(from);
    await operations.call('patch', `/leads/${id}`, { name: to }).set('If-Match', `"${version}"`).expect(200);
    return (await lead(to)).nameOrder;
  };
  expect((await lead('Öland Ferry')).nameOrder).not.toBeNull();
  expect(await change('Öland Ferry', 'Sound Ferry')).toBeNull();
  expect(await change('Sound Ferry', 'Öresund Ferry')).not.toBeNull();
});

it.each(['strassenmeister', 'Straßenmeister', 'grosshafen', 'Großh', 'STRAẞENMEISTEREI'])(
  'search finds ss for its one letter and the other way: %s',
  async (typed) => {
    const { body } = await operations.call('get', `/search?q=${encodeURIComponent(typed)}`).expect(200);
    const meant = /gro/i.test(typed) ? ['Großhafen'] : ['STRASSENMEISTEREI', 'Straßenmeisterei'];
    const found = (body as { hits: { name: string }[] }).hits.map(({ name }) => name);
    expect(found.filter((name) => names.includes(name)).sort()).toEqual(meant);
  },
);
