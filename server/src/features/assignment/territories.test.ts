import {
  ask,
  type AnyRecord,
  type ImportLook,
  type ImportSummary,
  type Job,
  type ProblemBody,
  type TerritoryPreview,
  type Written,
} from '@zawn/core';
import { Imports } from '../imports/imports';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let operations: Caller;
let rep: Caller;
let north: AnyRecord;
let harbours: AnyRecord;
beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
  rep = await Caller.signIn(server, 'tamsin.rudd');
  const { rows: teams } = await operations.records(ask('team'));
  const [one, other] = teams;
  north = await made(
    '/territories',
    territory('North', { field: 'country', is: 'anyOf', value: ['NO', 'SE'] }, one.id),
  );
  harbours = await made(
    '/territories',
    territory('Harbours', { field: 'industry', is: 'anyOf', value: ['harbour'] }, other.id, 1),
  );
});
afterAll(() => server.close());

const territory = (name: string, condition: object | null, team: number, position = 0) => ({
  name,
  object: 'account',
  condition: condition && JSON.stringify(condition),
  team,
  position,
  active: true,
});
const made = async (path: string, body: object, caller = operations) =>
  ((await caller.call('post', path, body).expect(201)).body as Written<AnyRecord>).value;
const account = (values: object) => ({
  name: `Account ${Math.random()}`,
  relationship: 'prospect',
  owner: rep.id,
  ...values,
});

describe('a territory', () => {
  it('takes in what is new, the first that is met, whoever makes it', async () => {
    const both = await made('/accounts', account({ country: 'NO', industry: 'harbour' }), rep);
    const second = await made('/accounts', account({ country: 'DE', industry: 'harbour' }), rep);
    const none = await made('/accounts', account({ country: 'DE' }), rep);
    expect([both.territory, second.territory, none.territory]).toEqual([north.id, harbours.id, null]);
    const file = 'Name,Country,Owner\nFrom a file,Norway,Tamsin Rudd\n';
    const { body: look } = await operations
      .call('post', '/imports/files?name=accounts.csv&as=account')
      .set('Content-Type', 'application/octet-stream')
      .send(file)
      .expect(201);
    const { file: kept, setup } = look as ImportLook;
    const { body: run } = await operations
      .call('post', '/imports', { file: kept, fileName: 'accounts.csv', setup })
      .expect(201);
    await server.app.get(Imports).settled((run as ImportSummary).id);
    const { rows } = await operations.records(
      ask('account', { field: 'name', is: 'is', value: 'From a file' }),
    );
    expect(rows.map((each) => each.territory)).toEqual([north.id]);
  });

  it('is put over what is there as one change, shown before and taken back', async () => {
    const preview = async () =>
      (await operations.call('post', '/territory-work/preview', { object: 'account' }).expect(200))
        .body as TerritoryPreview;
    const { moves, held } = await preview();
    const count = async (where: object) =>
      (await operations.records(ask('account', where as never), 1)).total;
    const northern = await count({ field: 'country', is: 'anyOf', value: ['NO', 'SE'] });
    expect(held.find((each) => each.territory === north.id)?.count).toBe(northern);
    const total = moves.reduce((sum, move) => sum + move.count, 0);
    expect(total).toBeGreaterThan(20);
    expect(await count({ field: 'territory', is: 'anyOf', value: [north.id] })).toBeLessThan(northern);
    const { body } = await operations.call('post', '/territory-work', { object: 'account' }).expect(200);
    expect(body as Job).toMatchObject({ state: 'done', changed: total });
    expect(await count({ field: 'territory', is: 'anyOf', value: [north.id] })).toBe(northern);
    expect((await preview()).moves).toEqual([]);
    await operations.call('post', '/territory-work', { object: 'account' }).expect(409);
    await operations.call('post', `/units/${(body as Job).unit}/undo`).expect(200);
    expect((await preview()).moves.reduce((sum, move) => sum + move.count, 0)).toBe(total);
  });

  it('says who may see: the accounts of my territories', async () => {
    const lars = await Caller.signIn(server, 'lars.westerholt');
    const { rows: mine } = await operations.records(
      ask('person', { field: 'name', is: 'is', value: 'Lars Westerholt' }),
    );
    const own = await made('/territories', {
      ...territory('Theirs', { field: 'city', is: 'is', value: 'Quarrelton' }, Number(mine[0].team), 2),
    });
    const there = await made('/accounts', account({ city: 'Quarrelton' }), rep);
    expect(there.territory).toBe(own.id);
    await lars.call('get', `/accounts/${there.id}`).expect(404);
    const where = { field: 'territory.team', is: 'anyOf', value: ['@myTeam'] };
    const role = await made('/roles', {
      name: 'By territory',
      basis: 'rep',
      sells: 'always',
      secondStep: false,
      retired: false,
      rules: JSON.stringify({
        exceptions: [{ object: 'account', operations: ['see'], where, reach: 'all' }],
      }),
    });
    await made('/role-grants', { role: role.key, person: lars.id });
    await lars.call('get', `/accounts/${there.id}`).expect(200);
    await lars.against(there.version, 'patch', `/accounts/${there.id}`, { city: 'x' }).expect(403);
  });

  it.each([
    [
      'what lies behind a link',
      { field: 'parent.country', is: 'anyOf', value: ['NO'] },
      /asks about the record itself/,
    ],
    ['a list', { field: 'lists', is: 'anyOf', value: [1] }, /asks about the record itself/],
    ['a field there is not', { field: 'x_gone', is: 'isEmpty' }, /There is no field “x_gone”/],
  ])('is no question about %s', async (_, condition, detail) => {
    const answer = await operations
      .call('post', '/territories', territory('Refused', condition, 1))
      .expect(422);
    expect((answer.body as ProblemBody).detail).toMatch(detail);
  });

  it('is set up by those who may', async () => {
    await rep.call('post', '/territories', territory('Mine', null, 1)).expect(403);
    await rep.call('post', '/territory-work/preview', { object: 'account' }).expect(403);
  });
});
