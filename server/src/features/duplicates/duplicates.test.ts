import fc from 'fast-check';
import { MoreThan } from 'typeorm';
import {
  ask,
  type AnyRecord,
  type DuplicatesPage,
  type MergeKind,
  type MergePreview,
  type ProblemBody,
  type Written,
} from '@zawn/core';
import { Database } from '../../platform/database/database';
import { type DuplicatePairRow } from '../../platform/database/rows';
import { ChangeQueue } from '../../kernel/changes/change-queue';
import { Caller, startServer, type TestServer } from '../../testing';
import { PairSearch } from './pair-search';

let server: TestServer;
let operations: Caller;
let rep: Caller;

beforeAll(async () => {
  server = await startServer({ demo: true });
  [operations, rep] = await Promise.all(
    ['bram.tideswell', 'tamsin.rudd'].map((name) => Caller.signIn(server, name)),
  );
});
afterAll(() => server.close());

const make = async (caller: Caller, path: string, values: object) =>
  ((await caller.call('post', path, { owner: caller.id, ...values }).expect(201)).body as Written<AnyRecord>)
    .value;
const merge = (caller: Caller, object: MergeKind, survivor: AnyRecord, other: AnyRecord, take: object = {}) =>
  caller.against(survivor.version, 'post', '/duplicates/merge', {
    object,
    survivor: survivor.id,
    other: other.id,
    take,
  });
const read = async (path: string, id: number) =>
  ((await operations.call('get', `/${path}/${id}`).expect(200)).body as { record: AnyRecord }).record;
const look = async (caller: Caller, object: MergeKind) =>
  (await caller.call('post', '/duplicates/look', { object }).expect(200)).body as DuplicatesPage;

describe('merging two contacts', () => {
  it('keeps the values picked, moves everything linked, keeps the old id working, and can be undone', async () => {
    const one = await make(rep, '/contacts', { name: 'Runa Oxmarrow', email: 'runa@oxmarrow.example' });
    const two = await make(rep, '/contacts', {
      name: 'R. Oxmarrow',
      role: 'Harbour master',
      city: 'Oxmarrow',
    });
    const note = await make(rep, '/notes', {
      body: 'Two pools, one pump house.',
      contact: two.id,
      owner: undefined,
    });
    const task = await make(rep, '/activities', {
      name: 'Call',
      kind: 'call',
      dueOn: '2026-11-20',
      contact: two.id,
    });
    const body = { object: 'contact', survivor: one.id, other: two.id };
    const preview = (await rep.call('post', '/duplicates/preview', body).expect(200)).body as MergePreview;
    expect(preview.moves).toEqual({ note: 1, activity: 1 });
    expect(preview.fields.map(({ key, proposed }) => [key, proposed])).toEqual([
      ['name', 'survivor'],
      ['role', 'other'],
      ['email', 'survivor'],
      ['city', 'other'],
    ]);
    const { body: done } = await merge(rep, 'contact', one, two, { city: 'survivor' }).expect(200);
    const { value, unit, label } = done as Written<AnyRecord>;
    expect(label).toBe('Merged “R. Oxmarrow” into “Runa Oxmarrow”');
    expect(value).toMatchObject({ name: 'Runa Oxmarrow', role: 'Harbour master', city: null });
    expect([(await read('notes', note.id)).contact, (await read('activities', task.id)).contact]).toEqual([
      one.id,
      one.id,
    ]);
    expect((await read('contacts', two.id)).id).toBe(one.id);
    await merge(rep, 'contact', value, two).expect(409);

    await rep.call('post', `/units/${unit}/undo`).expect(200);
    expect(await read('contacts', two.id)).toMatchObject({ id: two.id, city: 'Oxmarrow' });
    expect((await read('contacts', one.id)).role).toBeNull();
    expect((await read('notes', note.id)).contact).toBe(two.id);
  });

  it('of which one is itself, out of reach, or changed meanwhile is refused', async () => {
    const one = await make(rep, '/contacts', { name: 'Ulla Oxmarrow' });
    const [hidden] = (await (await Caller.signIn(server, 'greta.lindqvell')).records(ask('contact'), 1)).rows;
    await merge(rep, 'contact', one, one).expect(422);
    await merge(rep, 'contact', one, hidden).expect(404);
    const two = await make(rep, '/contacts', { name: 'U. Oxmarrow' });
    await merge(rep, 'contact', { ...one, version: 7 }, two).expect(409);
    await rep.call('post', '/duplicates/preview', { object: 'deal', survivor: 1, other: 2 }).expect(422);
    expect((await read('contacts', two.id)).id).toBe(two.id);
  });
});

describe('merging what was merged already, or became something else', () => {
  it('is refused with that reason, and changes nothing', async () => {
    const one = await make(rep, '/contacts', { name: 'Svea Oxmarrow' });
    const two = await make(rep, '/contacts', { name: 'S. Oxmarrow', role: 'Pilot' });
    const three = await make(rep, '/contacts', { name: 'Svea Oxmarow' });
    await merge(rep, 'contact', one, two).expect(200);
    const { body } = await merge(rep, 'contact', three, two).expect(409);
    expect((body as ProblemBody).detail).toContain(`Contact ${two.id} was merged already`);
    await merge(rep, 'contact', two, three).expect(409);
    expect(await read('contacts', three.id)).toMatchObject({ version: 1, role: null });
    const [converted] = (await operations.records(ask('lead', { field: 'convertedAt', is: 'isNotEmpty' }), 1))
      .rows;
    const lead = await make(operations, '/leads', { name: converted.name, status: 'untouched' });
    const refused = await merge(operations, 'lead', lead, converted).expect(409);
    expect((refused.body as ProblemBody).detail).toContain('was converted and is read-only');
  });
});

describe('merging what leads were converted to', () => {
  it('takes the leads along, read-only as they are', async () => {
    const [lead] = (await operations.records(ask('lead', { field: 'contact', is: 'isNotEmpty' }), 1)).rows;
    const other = await read('contacts', Number(lead.contact));
    const survivor = await make(operations, '/contacts', { name: other.name, owner: other.owner });
    const { body } = await merge(operations, 'contact', survivor, other).expect(200);
    expect((await read('leads', lead.id)).contact).toBe(survivor.id);
    await operations.call('post', `/units/${(body as Written<AnyRecord>).unit}/undo`).expect(200);
    expect((await read('leads', lead.id)).contact).toBe(other.id);
  });
});

describe('merging accounts', () => {
  it('of which one is the other’s parent leaves none above itself', async () => {
    const top = await make(rep, '/accounts', { name: 'Seven Skerries' });
    const low = await make(rep, '/accounts', { name: 'Seven Skerries Ltd', parent: top.id });
    const below = await make(rep, '/accounts', { name: 'Skerry Boats', parent: low.id });
    await merge(rep, 'account', top, low).expect(200);
    expect(await read('accounts', top.id)).toMatchObject({ parent: null });
    expect((await read('accounts', below.id)).parent).toBe(top.id);
    const other = await make(rep, '/accounts', { name: 'Eight Skerries' });
    const under = await make(rep, '/accounts', { name: 'Eight Skerries Ltd', parent: other.id });
    await merge(rep, 'account', under, other).expect(200);
    expect((await read('accounts', under.id)).parent).toBeNull();
  });
});

describe('merging records on somebody’s list', () => {
  it('puts the survivor on it, and takes it off again by undo', async () => {
    const one = await make(rep, '/contacts', { name: 'Perran Listmoor' });
    const two = await make(rep, '/contacts', { name: 'P. Listmoor' });
    const ofRep = { name: 'Open day', object: 'contact', sharing: 'private' };
    const made = (await rep.call('post', '/lists', ofRep).expect(201)).body as Written<AnyRecord>;
    const list = made.value;
    const action = { do: 'addToList', list: list.id };
    await rep.call('post', '/bulk', { object: 'contact', selection: { ids: [two.id] }, action }).expect(200);
    const onIt = async () => {
      const question = ask('contact', { field: 'lists', is: 'anyOf', value: [list.id] });
      return (await rep.records(question)).rows.map(({ id }) => id);
    };
    const { body } = await merge(operations, 'contact', one, two).expect(200);
    expect(await onIt()).toEqual([one.id]);
    await operations.call('post', `/units/${(body as Written<AnyRecord>).unit}/undo`).expect(200);
    expect(await onIt()).toEqual([two.id]);
  });
});

describe('any two records, merged and the merge undone', () => {
  it('are as they were, with everything that hangs on them', async () => {
    const { manager } = server.app.get(Database).reading;
    const content = async (object: MergeKind) => {
      const tables = [object, 'deal', 'activity', 'note', 'mail', 'listMember'];
      const parts = tables.map(async (table) => {
        const rows = await manager
          .createQueryBuilder()
          .select('*')
          .from(table, 'r')
          .getRawMany<Record<string, unknown>>();
        // Own fields, all of them empty, are none.
        const order = rows.map(({ version: _, updatedAt: __, custom, ...row }) =>
          JSON.stringify({ ...row, custom: custom === '{}' ? null : custom }),
        );
        return [table, order.sort()] as const;
      });
      return Object.fromEntries(await Promise.all(parts));
    };
    const choice = fc.record({
      object: fc.constantFrom<MergeKind>('contact', 'account'),
      at: fc.tuple(fc.nat(120), fc.nat(120)).filter(([a, b]) => a !== b),
      take: fc.dictionary(
        fc.constantFrom('name', 'city', 'phone', 'relationship', 'tags', 'owner'),
        fc.constantFrom('survivor', 'other'),
      ),
    });
    const all = {
      contact: (await operations.records(ask('contact'), 200)).rows,
      account: (await operations.records(ask('account'), 200)).rows,
      lead: [],
    };
    await fc.assert(
      fc.asyncProperty(choice, async ({ object, at, take }) => {
        const [survivor, other] = await Promise.all(
          at.map((place) => read(`${object}s`, all[object][place].id)),
        );
        const before = await content(object);
        const { body } = await merge(operations, object, survivor, other, take).expect(200);
        await operations.call('post', `/units/${(body as Written<AnyRecord>).unit}/undo`).expect(200);
        expect(await content(object)).toEqual(before);
      }),
      { numRuns: 4 },
    );
  });
});

describe('probable pairs', () => {
  it('are found with why, seen only by those who see both, and forgotten once judged', async () => {
    const one = await make(rep, '/leads', {
      name: 'Sunniva Quillmere',
      email: 's@quillmere.example',
      status: 'working',
    });
    const two = await make(rep, '/leads', {
      name: 'S. Quillmere',
      email: 's@quillmere.example',
      status: 'untouched',
    });
    const { rows: pairs } = await look(rep, 'lead');
    const found = pairs.find((pair) => pair.one.id === one.id);
    expect(found).toMatchObject({ two: { id: two.id }, reason: 'Same email', likeness: 1 });
    const other = await Caller.signIn(server, 'greta.lindqvell');
    expect(JSON.stringify(await look(other, 'lead'))).not.toContain('quillmere');
    const judgement = { object: 'lead', ids: [two.id, one.id], verdict: 'different' };
    await other.call('post', '/duplicates/verdicts', judgement).expect(404);
    await rep.call('post', '/duplicates/verdicts', judgement).expect(200);
    expect((await look(rep, 'lead')).rows.map((pair) => pair.one.id)).not.toContain(one.id);
    await rep.call('post', '/duplicates/verdicts', { ...judgement, verdict: null }).expect(200);
    expect((await look(rep, 'lead')).rows.map((pair) => pair.one.id)).toContain(one.id);
  });

  it('are each seen once, although some are judged between one page and the next', async () => {
    // Ten that are all like each other are 45 pairs, more than a page holds.
    for (let index = 0; index < 10; index += 1)
      await make(operations, '/leads', {
        name: 'Marit Sluiceby',
        email: 'm@sluiceby.example',
        status: 'untouched',
      });
    const { rows: first, next } = await look(operations, 'lead');
    const [{ one, two }] = first;
    const judgement = { object: 'lead', ids: [one.id, two.id] };
    await operations.call('post', '/duplicates/verdicts', { ...judgement, verdict: 'different' });
    const seen = [...first];
    for (let cursor = next; cursor !== null;) {
      const { body } = await operations.call('get', `/duplicates?object=lead&cursor=${cursor}`).expect(200);
      const page = body as DuplicatesPage;
      seen.push(...page.rows);
      cursor = page.next;
    }
    await operations.call('post', '/duplicates/verdicts', { ...judgement, verdict: null });
    const { total } = await look(operations, 'lead');
    expect(total).toBeGreaterThan(first.length);
    expect(new Set(seen.map(({ id }) => id)).size).toBe(total);
    expect(seen).toHaveLength(total);
  });

  it('come and go with what is written, without anyone looking again', async () => {
    const queue = server.app.get(ChangeQueue);
    const pairs = async () => {
      await queue.done();
      const { body } = await operations.call('get', '/duplicates?object=account').expect(200);
      return (body as DuplicatesPage).rows.filter(({ one }) => String(one.name).includes('Skarvmoor'));
    };
    await look(operations, 'account');
    await make(operations, '/accounts', { name: 'Skarvmoor Pilots', domain: 'skarvmoor.example' });
    const two = await make(operations, '/accounts', { name: 'Skarvmoor Piloting' });
    expect(await pairs()).toEqual([]);
    const { body } = await operations
      .against(two.version, 'patch', `/accounts/${two.id}`, { domain: 'skarvmoor.example' })
      .expect(200);
    expect((await pairs()).map(({ reason }) => reason)).toEqual(['Same website and a similar name']);
    const { version } = (body as Written<AnyRecord>).value;
    const gone = await operations.against(version, 'delete', `/accounts/${two.id}`).expect(200);
    expect(await pairs()).toEqual([]);
    await operations.call('post', `/units/${(gone.body as Written<AnyRecord>).unit}/undo`).expect(200);
    expect(await pairs()).toHaveLength(1);
  });

  it('are not looked for by what very many share, however they came', async () => {
    await look(operations, 'lead');
    for (let index = 0; index < 44; index += 1)
      await make(operations, '/leads', { name: 'Vigdis Commonby', status: 'untouched' });
    await server.app.get(ChangeQueue).done();
    const blocks = await server.app
      .get(Database)
      .reading.createQueryBuilder()
      .select('COUNT(*)', 'size')
      .from('matchKey', 'k')
      .groupBy('k.object')
      .addGroupBy('k.key')
      .getRawMany<{ size: number }>();
    expect(Math.max(...blocks.map(({ size }) => size))).toBe(40);
  });

  it('are looked for on where a stop interrupted', async () => {
    const search = server.app.get(PairSearch);
    const { writer, reading } = server.app.get(Database);
    const found = async () =>
      (await reading.manager.find<DuplicatePairRow>('duplicatePair', { where: { object: 'contact' } }))
        .map(({ a, b, reason }) => `${a} ${b} ${reason}`)
        .sort();
    for (let index = 0; index < 8; index += 1)
      await make(operations, '/contacts', {
        name: 'Solveig Locksound',
        email: `s@locksound${index % 4}.example`,
      });
    await search.look('contact');
    const [before, look] = [await found(), await search.lastLook('contact')];
    const keys = await reading.manager.count('matchKey');
    expect(before.length).toBeGreaterThan(10);
    const after = Number(before[Math.floor(before.length / 2)].split(' ')[1]);
    await writer.transaction(async (manager) => {
      await manager.delete('duplicatePair', { object: 'contact', b: MoreThan(after) });
      await manager.delete('matchKey', { object: 'contact' });
      await manager.update('duplicateLook', 'contact', { after, compared: after });
    });
    expect((await found()).length).toBeLessThan(before.length);
    await search.look('contact');
    expect(await found()).toEqual(before);
    expect(await reading.manager.count('matchKey')).toBe(keys);
    expect(await search.lastLook('contact')).toMatchObject({ after: null, isCut: false });
    expect(look?.compared).toBe((await operations.records(ask('contact'), 1)).total);
  });

  it('say when all were compared, and how many only to those who see all', async () => {
    const { total } = await operations.records(ask('account'), 1);
    expect((await look(operations, 'account')).look).toEqual({
      lookedAt: expect.stringContaining('2026-11-19') as string,
      compared: total,
      share: null,
      isCut: false,
    });
    expect((await look(rep, 'account')).look.compared).toBeNull();
  });

  it('are asked for by kind', async () => {
    await rep.call('get', '/duplicates?object=deal').expect(422);
    await rep.call('get', '/duplicates?object=lead&cursor=x').expect(422);
  });
});
