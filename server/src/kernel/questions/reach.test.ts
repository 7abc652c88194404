import {
  ask,
  builtIn,
  fieldsOf,
  objectKeys,
  objectType,
  relationsOf,
  type AnyRecord,
  type ObjectKey,
  type Question,
  type Written,
} from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let operations: Caller;
// Every path of the catalogue is asked for, which takes its time on a busy machine.
jest.setTimeout(120_000);

beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
});
afterAll(() => server.close());

const people = ['tamsin.rudd', 'maren.ollerby', 'signe.abernock', 'bram.tideswell'];

describe.each(['tamsin.rudd', 'maren.ollerby'])('%s', (email) => {
  let caller: Caller;
  beforeAll(async () => {
    caller = await Caller.signIn(server, email);
  });
  const asked = (question: Question) => caller.call('post', '/questions/records', { question, limit: 3 });

  it.each(objectKeys)('may show, sort by and ask for whatever a %s links to', async (object) => {
    for (const [key, { type, to }] of fieldsOf(builtIn, object)) {
      if (type !== 'link') continue;
      const target = to as ObjectKey;
      const behind = [key, `${key}.${objectType(target).nameField}`, `${key}.createdAt`];
      for (const [inner, field] of fieldsOf(builtIn, target))
        if (field.type === 'link') behind.push(`${key}.${inner}`);
      for (const path of behind) {
        const shown = await asked({ ...ask(object), columns: [path], sort: [{ field: path }] });
        expect([object, path, shown.status]).toEqual([object, path, 200]);
        const met = await asked(ask(object, { field: path, is: 'isNotEmpty' }));
        expect([object, path, met.status]).toEqual([object, path, 200]);
      }
    }
  });

  it.each(objectKeys)('may ask for records related to a %s', async (object) => {
    for (const { key } of relationsOf(builtIn, object)) {
      const { status } = await asked(ask(object, { related: key, is: 'atLeast', value: 1 }));
      expect([object, key, status]).toEqual([object, key, 200]);
    }
  });
});

describe('a link of one’s own', () => {
  it.each(['file', 'activity', 'note', 'mail', 'membership'])(
    'to a %s can be shown and sorted by',
    async (to) => {
      const key = `x_to${to}`;
      const isFile = to === 'file';
      await operations
        .call('post', '/custom-fields', {
          object: 'lead',
          key,
          label: `To ${to}`,
          type: isFile ? 'file' : 'link',
          ...(isFile ? {} : { to }),
          required: false,
          position: 50,
          retired: false,
        })
        .expect(201);
      for (const email of people) {
        const caller = await Caller.signIn(server, email);
        const nameField = objectType(to as ObjectKey).nameField;
        for (const path of [key, `${key}.${nameField}`, `${key}.owner`]) {
          const question = { ...ask('lead'), columns: ['name', path], sort: [{ field: path }] };
          const { status } = await caller.call('post', '/questions/records', { question, limit: 3 });
          expect([email, path, status]).toEqual([email, path, 200]);
        }
      }
    },
  );
});

describe('what only operations may read', () => {
  const confidential: [ObjectKey, object][] = [
    ['assignmentRule', { name: 'Hush', to: 'person', position: 9, active: true }],
    ['form', { name: 'Hush', slug: 'hush', to: 'rules', active: true }],
    ['captureAddress', { name: 'Hush', address: 'hush@brackwater.example', to: 'rules', active: true }],
  ];

  it.each(confidential)('%s: nobody else counts, groups, finds or opens it', async (object) => {
    const all = await operations.records(ask(object));
    expect(all.total).toBeGreaterThan(0);
    const [{ id }] = all.rows;
    for (const email of people.slice(0, 3)) {
      const caller = await Caller.signIn(server, email);
      expect((await caller.records(ask(object))).total).toBe(0);
      expect((await caller.figures({ ...ask(object), measures: [{ as: 'count' }] }))[0].figures).toEqual([0]);
      expect(await caller.figures({ ...ask(object), groups: [{ field: 'name' }] })).toEqual([]);
      await caller.call('get', `/${objectType(object).path}/${id}`).expect(404);
      const behind = ask('person', { related: `${object}.person`, is: 'atLeast', value: 1 });
      // There is no such relation to ask by, which a page says.
      expect((await caller.records(behind)).leftOut).toHaveLength(1);
    }
  });
});

describe('a merge', () => {
  it('neither counts nor names what is out of reach, and moves it all the same, there and back', async () => {
    const rep = await Caller.signIn(server, 'tamsin.rudd');
    const other = await Caller.signIn(server, 'greta.lindqvell');
    const make = async (caller: Caller, path: string, values: object) => {
      const { body } = await caller.call('post', path, values).expect(201);
      return (body as Written<AnyRecord>).value;
    };
    const kept = await make(rep, '/accounts', {
      name: 'Kept Quay Ltd',
      relationship: 'prospect',
      owner: rep.id,
    });
    const gone = await make(rep, '/accounts', {
      name: 'Gone Quay Ltd',
      relationship: 'prospect',
      owner: rep.id,
    });
    const hidden = await make(operations, '/contacts', {
      name: 'Hidden Harbourer',
      owner: other.id,
      account: gone.id,
    });
    const pair = { object: 'account', survivor: kept.id, other: gone.id };
    const { body: preview } = await rep.call('post', '/duplicates/preview', pair).expect(200);
    expect((preview as { moves: object }).moves).toEqual({});
    const answer = await rep
      .against(kept.version, 'post', '/duplicates/merge', { ...pair, take: {} })
      .expect(200);
    expect(JSON.stringify(answer.body)).not.toContain('Hidden');
    const accountOf = async () => {
      const { body } = await other.call('get', `/contacts/${hidden.id}`).expect(200);
      return (body as { record: AnyRecord }).record.account;
    };
    const linked = async () =>
      (await operations.call('get', `/contacts/${hidden.id}`)).body as { record: AnyRecord };
    expect((await linked()).record.account).toBe(kept.id);
    const { unit } = answer.body as Written<AnyRecord>;
    const { body: undone } = await rep.call('post', `/units/${unit}/undo`).expect(200);
    expect(JSON.stringify(undone)).not.toContain('Hidden');
    expect((await linked()).record.account).toBe(gone.id);
    expect(await accountOf()).toBe(gone.id);
  });
});
