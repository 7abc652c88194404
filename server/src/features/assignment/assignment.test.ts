import {
  ask,
  type AnyRecord,
  type AssignmentTrial,
  type ImportLook,
  type ImportSummary,
  type SignedIn,
  type Written,
} from '@zawn/core';
import { Imports } from '../imports/imports';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let rep: Caller;
let operations: Caller;
let ids: { nora: number; tamsin: number; ewan: number };

beforeAll(async () => {
  server = await startServer({ demo: true });
  rep = await Caller.signIn(server, 'tamsin.rudd');
  operations = await Caller.signIn(server, 'bram.tideswell');
  const idOf = (name: string) => operations.session.people.find((each) => each.name === name)?.id ?? 0;
  ids = { nora: idOf('Nora Fairlough'), tamsin: idOf('Tamsin Rudd'), ewan: idOf('Ewan Castellin') };
  for (const { id, version } of (await operations.records(ask('assignmentRule'))).rows)
    await operations.against(version, 'delete', `/assignment-rules/${id}`).expect(200);
});
afterAll(() => server.close());

const rule = (values: object) => ({ position: 0, active: true, ...values });
const addRule = async (values: object) => {
  const { body } = await operations.call('post', '/assignment-rules', rule(values)).expect(201);
  return (body as Written<AnyRecord>).value;
};
const who = async (values: object) => {
  const { body } = await operations.call('post', '/assignment/try', values).expect(200);
  return body as AssignmentTrial;
};

describe('assignment rules', () => {
  it('say who would get a lead, and which rules were looked at', async () => {
    const sweden = await addRule({
      name: 'Sweden',
      condition: JSON.stringify({ field: 'country', is: 'anyOf', value: ['SE'] }),
      to: 'person',
      person: ids.nora,
    });
    const rest = await addRule({
      name: 'The rest',
      to: 'turns',
      people: JSON.stringify([ids.tamsin, ids.ewan]),
      position: 1,
    });
    expect(await who({ name: 'X', country: 'SE' })).toEqual({
      owner: ids.nora,
      rule: sweden.id,
      tried: [
        { id: sweden.id, name: 'Sweden', isMet: true },
        { id: rest.id, name: 'The rest', isMet: true },
      ],
      asleep: [],
    });
    expect(await who({ country: 'GB' })).toMatchObject({ owner: ids.tamsin, rule: rest.id });
    // Nobody’s turn was used up by asking.
    expect(await who({ country: 'GB' })).toMatchObject({ owner: ids.tamsin });
  });

  it.each([
    [{ name: 'A', to: 'person' }, 'Who gets the lead is missing'],
    [{ name: 'A', to: 'turns', people: '[]' }, 'at least one person'],
    [{ name: 'A', to: 'turns', people: '[1, 1]' }, 'each once'],
    [{ name: 'A', to: 'turns', people: '[99999]' }, 'somebody is not there'],
    [{ name: 'A', to: 'turns', people: 'nonsense' }, 'at least one person'],
    [{ name: 'A', to: 'person', person: 1, condition: '{"field":' }, 'Condition'],
    [{ name: 'A', to: 'person', person: 1, condition: '{"field":"name","is":"glows"}' }, 'Condition'],
    [{ to: 'person', person: 1 }, 'Name is missing'],
  ])('that make no sense are refused: %j', async (values, message) => {
    const { body } = await operations.call('post', '/assignment-rules', rule(values)).expect(422);
    expect(JSON.stringify(body)).toContain(message);
  });

  it('are operations’ to change and to look at', async () => {
    await rep
      .call('post', '/assignment-rules', rule({ name: 'Mine', to: 'person', person: rep.id }))
      .expect(403);
    await rep.call('post', '/assignment/try', {}).expect(403);
    await rep.call('get', '/assignment/default').expect(403);
    await rep.call('patch', '/assignment/default', { person: rep.id }).expect(403);
  });

  it('pass over who is away', async () => {
    await rep.call('patch', '/preferences', { awayUntil: '2026-11-19' }).expect(200);
    expect(await who({ country: 'GB' })).toMatchObject({ owner: ids.ewan });
    const { people } = (await operations.call('get', '/session').expect(200)).body as SignedIn;
    expect(people.filter(({ awayUntil }) => awayUntil)).toMatchObject([
      { id: ids.tamsin, awayUntil: '2026-11-19' },
    ]);
    await rep.call('patch', '/preferences', { awayUntil: '2026-11-18' }).expect(200);
    expect(await who({ country: 'GB' })).toMatchObject({ owner: ids.tamsin });
    await rep.call('patch', '/preferences', { awayUntil: 'soon' }).expect(422);
    await rep.call('patch', '/preferences', { awayUntil: null }).expect(200);
  });

  it('give the leads of an import out fairly, each hearing of theirs', async () => {
    const rows = Array.from({ length: 20 }, (_, at) => `Given ${at},${at % 10 === 0 ? 'SE' : 'GB'}`).join(
      '\n',
    );
    const { body: look } = await operations
      .call('post', '/imports/files?name=given.csv&as=lead')
      .set('Content-Type', 'application/octet-stream')
      .send(`Name,Country\n${rows}\n`)
      .expect(201);
    const { file, setup } = look as ImportLook;
    const request = { file, fileName: 'given.csv', setup: { ...setup, owner: { by: 'rules' } } };
    const { body } = await operations.call('post', '/imports', request).expect(201);
    await server.app.get(Imports).settled((body as ImportSummary).id);
    const given = (
      await operations.records(ask('lead', { field: 'name', is: 'startsWith', value: 'Given ' }))
    ).rows;
    const of = (person: number) => given.filter(({ owner }) => owner === person).length;
    expect([of(ids.nora), of(ids.tamsin), of(ids.ewan)]).toEqual([2, 9, 9]);
    const { body: told } = await rep.call('get', '/notices').expect(200);
    expect(JSON.stringify(told)).toContain('9 leads are new and yours');
    // A rep may not have others given leads.
    await rep.call('post', '/imports/preview', { file, setup: request.setup }).expect(404);
    const { body: own } = await rep
      .call('post', '/imports/files?name=x.csv&as=lead')
      .set('Content-Type', 'application/octet-stream')
      .send('Name\nX\n');
    const mine = own as ImportLook;
    await rep
      .call('post', '/imports/preview', { file: mine.file, setup: { ...mine.setup, owner: { by: 'rules' } } })
      .expect(403);
  });

  it('leave what none is met for to the default owner', async () => {
    for (const { id, version } of (await operations.records(ask('assignmentRule'))).rows)
      await operations.against(version, 'delete', `/assignment-rules/${id}`).expect(200);
    expect(await who({})).toEqual({ owner: operations.id, rule: null, tried: [], asleep: [] });
    await operations.call('patch', '/assignment/default', { person: ids.ewan }).expect(200);
    expect((await who({})).owner).toBe(ids.ewan);
    await operations.call('patch', '/assignment/default', { person: 99_999 }).expect(422);
  });
});
