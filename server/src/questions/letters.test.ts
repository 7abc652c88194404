import { ask, holds, type AnyRecord, type Condition } from '@zawn/core';
import { Gate } from './gate';
import { outside } from '../capture/outside';
import { Caller, startServer, type TestServer } from '../testing';

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
    const context = await server.app.get(Gate).context(outside);
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
