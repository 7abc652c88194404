import { ask, type AnyRecord, type NoticesPage, type Written } from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let operations: Caller;
let tamsin: Caller;
let lars: Caller;
beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
  tamsin = await Caller.signIn(server, 'tamsin.rudd');
  lars = await Caller.signIn(server, 'lars.westerholt');
});
afterAll(() => server.close());

const deals = async (caller: Caller) => (await caller.records(ask('deal'), 1)).total;

describe('somebody who is away', () => {
  it('has a colleague stand in from the first day to the last, who sees, changes and hears of what is theirs', async () => {
    const [mine, theirs] = [await deals(lars), await deals(tamsin)];
    const away = { awayFrom: '2026-11-20', awayUntil: '2026-11-30', substitute: lars.id };
    await tamsin.call('patch', '/preferences', away).expect(200);
    expect(await deals(lars)).toBe(mine);
    await tamsin.call('patch', '/preferences', { awayFrom: '2026-11-19' }).expect(200);
    expect(await deals(lars)).toBe(mine + theirs);
    const deal = (await tamsin.records(ask('deal'), 1)).rows[0];
    await lars.against(deal.version, 'patch', `/deals/${deal.id}`, { externalId: 'Nordkai' }).expect(200);
    await operations
      .call('post', '/leads', { name: 'While away', status: 'untouched', owner: tamsin.id })
      .expect(201);
    const { body } = await lars.call('get', '/notices').expect(200);
    expect((body as NoticesPage).rows[0].text).toMatch(/^You stand in for a colleague: New lead: While away/);
    // Their own views stay theirs.
    const view = {
      name: 'Mine alone',
      object: 'deal',
      sharing: 'private',
      design: JSON.stringify({ version: 1, question: ask('deal'), draw: 'table' }),
    };
    const kept = await tamsin.call('post', '/views', view);
    if (kept.status === 201)
      await lars.call('get', `/views/${(kept.body as Written<AnyRecord>).value.id}`).expect(404);
    await tamsin.call('patch', '/preferences', { awayUntil: null }).expect(200);
    expect(await deals(lars)).toBe(mine);
  });

  it.each([
    ['nobody', 99999],
    ['themselves', undefined],
  ])('has not %s stand in', async (_, substitute) => {
    await tamsin.call('patch', '/preferences', { substitute: substitute ?? tamsin.id }).expect(422);
  });
});

describe('a further team', () => {
  it('is seen by whoever leads it, and takes nobody out of their own', async () => {
    const manager = await Caller.signIn(server, 'ylva.thornquist');
    const person = (
      await operations.records(ask('person', { field: 'name', is: 'is', value: 'Tamsin Rudd' }))
    ).rows[0];
    const leader = (
      await operations.records(ask('person', { field: 'name', is: 'is', value: 'Ylva Thornquist' }))
    ).rows[0];
    expect(person.team).not.toBe(leader.team);
    const [before, theirs] = [await deals(manager), await deals(tamsin)];
    const body = { person: tamsin.id, team: leader.team };
    const made = await operations.call('post', '/team-members', body).expect(201);
    expect(await deals(manager)).toBe(before + theirs);
    await operations.call('post', '/team-members', body).expect(422);
    await operations.call('post', '/team-members', { person: tamsin.id, team: person.team }).expect(422);
    const { value } = made.body as Written<AnyRecord>;
    await operations.against(value.version, 'delete', `/team-members/${value.id}`).expect(200);
    expect(await deals(manager)).toBe(before);
  });
});

describe('targets', () => {
  it('of teams and of the organisation stand beside those of people, and in none of their sums', async () => {
    const sum = async () =>
      (
        await operations.figures({
          ...ask('target', { field: 'owner', is: 'isNotEmpty' }),
          measures: [{ as: 'sum', of: 'amount' }],
        })
      )[0].figures[0];
    const before = await sum();
    const entry = (values: object) => ({
      owner: null,
      team: null,
      startsOn: '2026-10-01',
      amount: 9_000_000,
      currency: 'GBP',
      ...values,
    });
    const entries = [entry({}), entry({ team: 1 }), entry({ team: 2, amount: null })];
    const { body } = await operations.call('post', '/target-entries', { entries }).expect(200);
    expect((body as Written<object>).value).toEqual({ created: 2, changed: 0, removed: 0 });
    expect((body as Written<object>).label).toBe('Set 3 targets');
    expect(await sum()).toBe(before);
    await operations.call('post', '/targets', entry({})).expect(422);
    await operations.call('post', '/targets', entry({ owner: tamsin.id, team: 1 })).expect(422);
    await tamsin.call('post', '/target-entries', { entries }).expect(403);
    await operations.call('post', `/units/${(body as Written<object>).unit}/undo`).expect(200);
    expect((await operations.records(ask('target', { field: 'owner', is: 'isEmpty' }), 1)).total).toBe(0);
  });
});
