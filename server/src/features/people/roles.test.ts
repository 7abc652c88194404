import {
  ask,
  type AnyRecord,
  type ImportLook,
  type ImportPreview,
  type ImportSummary,
  type PersonReach,
  type ProblemBody,
  type RecordReach,
  type RolePreview,
  type SignedIn,
  type Written,
} from '@zawn/core';
import { Gate } from '../../kernel/questions/gate';
import { Imports } from '../imports/imports';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let operations: Caller;
let rep: Caller;
beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
  rep = await Caller.signIn(server, 'tamsin.rudd');
});
afterAll(() => server.close());

const named = async (object: 'role' | 'team' | 'person', name: string) =>
  (await operations.records(ask(object, { field: 'name', is: 'is', value: name }))).rows[0];
const detailOf = ({ body }: { body: unknown }) => (body as ProblemBody).detail;
const valueOf = ({ body }: { body: unknown }) => (body as Written<AnyRecord>).value;

const newRole = { basis: 'rep', sells: 'always', secondStep: false, retired: false };
let count = 0;
const make = async (rules: object | null = null) => {
  const values = { ...newRole, name: `Role ${(count += 1)}`, rules: rules && JSON.stringify(rules) };
  return valueOf(await operations.call('post', '/roles', values).expect(201));
};
const change = (role: AnyRecord, body: object) =>
  operations.against(role.version, 'patch', `/roles/${role.id}`, body);
const undo = (body: unknown) =>
  operations.call('post', `/units/${(body as Written<unknown>).unit}/undo`).expect(200);

describe('a role', () => {
  it('is there ready seven times, and takes part in what comes later as long as it is not changed', async () => {
    const { rows } = await operations.records({ ...ask('role'), sort: [{ field: 'id' }] });
    expect(rows.map(({ key, rules }) => [key, rules]).slice(0, 7)).toEqual(
      ['rep', 'manager', 'director', 'operations', 'readOnly', 'finance', 'partner'].map((key) => [
        key,
        null,
      ]),
    );
  });

  it('keeps only what differs from the one it began as', async () => {
    const role = await make({
      reach: { deal: { see: 'all', edit: 'shared' } },
      acts: { closeDeals: true, mergeRecords: false },
    });
    expect(JSON.parse(String(role.rules))).toEqual({
      reach: { deal: { see: 'all' } },
      acts: { mergeRecords: false },
    });
  });

  it.each([
    ['no JSON', '{', /Rules must be JSON/],
    [
      'what is edited unseen',
      JSON.stringify({ reach: { deal: { edit: 'all' } } }),
      /Deals: Edit is all, but only own and shared can be seen/,
    ],
    ['an unknown object', JSON.stringify({ reach: { spoon: { see: 'all' } } }), /spoon/],
    [
      'something withheld that is no part of setting up',
      JSON.stringify({ withheld: { closeDeals: ['add'] } }),
      /closeDeals/,
    ],
    [
      'an operation that cannot be withheld',
      JSON.stringify({ withheld: { setUpMoney: ['see'] } }),
      /setUpMoney/,
    ],
    ['an unknown reach', JSON.stringify({ reach: { deal: { see: 'most' } } }), /see/],
    ['an operation an object has not', JSON.stringify({ reach: { note: { export: 'none' } } }), /export/],
    [
      'an exception about a field there is not',
      JSON.stringify({
        exceptions: [
          { object: 'deal', operations: ['see'], where: { field: 'x_gone', is: 'isEmpty' }, reach: 'none' },
        ],
      }),
      /There is no field “x_gone”/,
    ],
    [
      'an exception by a list, which is its owner’s',
      JSON.stringify({
        exceptions: [
          {
            object: 'deal',
            operations: ['see'],
            where: { field: 'lists', is: 'anyOf', value: [1] },
            reach: 'all',
          },
        ],
      }),
      /a list is its owner’s to change/,
    ],
    [
      'an exception about a stage that is gone',
      JSON.stringify({
        exceptions: [
          {
            object: 'deal',
            operations: ['see'],
            where: { field: 'stage', is: 'anyOf', value: [999] },
            reach: 'none',
          },
        ],
      }),
      /the stage it names is gone or retired/,
    ],
    [
      'the name hidden',
      JSON.stringify({ fields: [{ object: 'deal', field: 'name', may: 'nothing' }] }),
      /cannot be hidden/,
    ],
    [
      'the currency of an amount hidden',
      JSON.stringify({ fields: [{ object: 'deal', field: 'currency', may: 'nothing' }] }),
      /cannot be hidden/,
    ],
    [
      'a required field hidden from who adds',
      JSON.stringify({ fields: [{ object: 'deal', field: 'stage', may: 'nothing' }] }),
      /whoever adds one must see it/,
    ],
    [
      'a field there is not',
      JSON.stringify({ fields: [{ object: 'deal', field: 'spoon', may: 'see' }] }),
      /no field “spoon”/,
    ],
  ])('is refused with %s', async (_, rules, detail) => {
    const answer = await operations.call('post', '/roles', { ...newRole, name: 'Refused', rules });
    expect(answer.status).toBe(422);
    expect(detailOf(answer)).toMatch(detail);
  });

  it('has a name and a key of its own', async () => {
    const role = await make();
    expect(
      detailOf(await operations.call('post', '/roles', { ...newRole, name: 'rep' }).expect(422)),
    ).toMatch(/there is a role “Rep” already/);
    expect(role.key).toMatch(/^role\d+$/);
    await change(role, { basis: 'operations' }).expect(422);
  });

  it('stays as long as somebody has it', async () => {
    const rows = await named('role', 'Rep');
    const answer = await operations.against(rows.version, 'delete', `/roles/${rows.id}`).expect(409);
    expect(detailOf(answer)).toMatch(/“Rep” is still the role of 10 people/);
    await change(rows, { retired: true }).expect(409);
    const free = await make();
    await change(free, { retired: true }).expect(200);
    const person = await named('person', 'Otto Zetterlund');
    const given = await operations.against(person.version, 'patch', `/people/${person.id}`, {
      role: free.key,
    });
    expect(given.status).toBe(422);
  });

  it('holds the stage that it names', async () => {
    const made = valueOf(
      await operations.call('post', '/pipelines', { name: 'Tenders', position: 9 }).expect(201),
    );
    const stage = valueOf(
      await operations
        .call('post', '/stages', {
          name: 'Sealed',
          pipeline: made.id,
          position: 0,
          probability: 50,
          usualDays: 9,
        })
        .expect(201),
    );
    const where = { field: 'stage', is: 'anyOf', value: [stage.id] };
    const role = await make({ exceptions: [{ object: 'deal', operations: ['see'], where, reach: 'none' }] });
    const answer = await operations.against(stage.version, 'delete', `/stages/${stage.id}`).expect(409);
    expect(detailOf(answer)).toMatch(new RegExp(`The role “${String(role.name)}” names “Sealed”`));
  });

  it('holds the field that it names', async () => {
    const own = {
      object: 'deal',
      key: 'x_secrecy',
      label: 'Secrecy',
      type: 'text',
      required: false,
      position: 90,
      retired: false,
    };
    const field = valueOf(await operations.call('post', '/custom-fields', own).expect(201));
    const where = { field: 'x_secrecy', is: 'isNotEmpty' };
    const role = await make({ exceptions: [{ object: 'deal', operations: ['see'], where, reach: 'none' }] });
    const retired = await operations.against(field.version, 'patch', `/custom-fields/${field.id}`, {
      retired: true,
    });
    expect([retired.status, detailOf(retired)]).toEqual([
      409,
      expect.stringMatching(new RegExp(`The role “${String(role.name)}” names “Secrecy”`)),
    ]);
    await operations.against(field.version, 'delete', `/custom-fields/${field.id}`).expect(409);
  });

  it('of two who change it at once is one’s first; the other learns of it', async () => {
    const role = await make();
    await change(role, { rules: JSON.stringify({ reach: { lead: { see: 'all' } } }) }).expect(200);
    const late = await change(role, { rules: JSON.stringify({ reach: { deal: { see: 'all' } } }) }).expect(
      409,
    );
    const { current } = late.body as ProblemBody;
    expect(JSON.parse(String(current?.rules))).toEqual({ reach: { lead: { see: 'all' } } });
  });

  it('keeps back adding, changing or deleting of what it sets up, and lets what was done be taken back', async () => {
    const role = await make({
      acts: { setUpProducts: true, setUpPipelines: true, setUpAssignment: true },
      withheld: { setUpProducts: ['delete'], setUpPipelines: ['edit'], setUpAssignment: ['edit'] },
    });
    const person = await named('person', 'Lars Westerholt');
    const { body: given } = await operations
      .call('post', '/role-grants', { role: role.key, person: person.id })
      .expect(201);
    const careful = await Caller.signIn(server, 'lars.westerholt');
    const price = { unitPrice: 100, currency: 'GBP' };
    const { body: made } = await careful
      .call('post', '/products', { code: 'K-1', name: 'Kept', ...price })
      .expect(201);
    const { id } = (made as Written<AnyRecord>).value;
    await careful.against(1, 'patch', `/products/${id}`, { name: 'Kept on' }).expect(200);
    const refused = await careful.against(2, 'delete', `/products/${id}`).expect(403);
    expect(detailOf(refused)).toMatch(/does not let you delete products/);
    const { body: other } = await careful
      .call('post', '/products', { code: 'K-2', name: 'Slip', ...price })
      .expect(201);
    await careful.call('post', `/units/${(other as Written<AnyRecord>).unit}/undo`).expect(200);
    // A route of its own asks the same.
    const [first, second] = careful.session.stages.filter(({ pipeline }) => pipeline === 1);
    const order = careful.session.stages.filter(({ pipeline }) => pipeline === 1).map((each) => each.id);
    await careful.call('post', '/pipelines/1/stage-order', { stages: order.reverse() }).expect(403);
    await careful.call('post', `/stages/${first.id}/retirement`, { to: second.id }).expect(403);
    await careful.call('patch', '/assignment/default', { person: person.id }).expect(403);
    const { body: reach } = await operations.call('get', `/people/${person.id}/reach`).expect(200);
    expect((reach as PersonReach).withheld).toContainEqual({ act: 'setUpProducts', operations: ['delete'] });
    const { body: preview } = await operations
      .call('post', '/role-preview', { role: role.key, rules: { acts: { setUpProducts: true } } })
      .expect(200);
    const gained = { person: person.id, act: 'setUpProducts', operation: 'delete', gains: true };
    expect((preview as RolePreview).acts).toContainEqual(gained);
    await undo(given);
  });

  it('cannot be taken from the last who looks after people, by whatever way', async () => {
    const role = await named('role', 'Operations');
    const held = JSON.stringify({ withheld: { managePeople: ['edit'] } });
    await change(role, { rules: held }).expect(409);
    const without = JSON.stringify({ acts: { managePeople: false } });
    const answer = await change(role, { rules: without }).expect(409);
    expect(detailOf(answer)).toMatch(/nobody who can sign in would look after people any more/);
    // Through a further role somebody else may, and then also only as long as they have it.
    const person = await named('person', 'Maren Ollerby');
    const grant = await operations
      .call('post', '/role-grants', { role: 'operations', person: person.id })
      .expect(201);
    const bram = await named('person', 'Bram Tideswell');
    const { body } = await operations
      .against(bram.version, 'patch', `/people/${bram.id}`, { role: 'manager' })
      .expect(200);
    const maren = await Caller.signIn(server, 'maren.ollerby');
    const { value } = grant.body as Written<AnyRecord>;
    await maren.against(value.version, 'delete', `/role-grants/${value.id}`).expect(409);
    await maren
      .against((body as Written<AnyRecord>).value.version, 'patch', `/people/${bram.id}`, {
        role: 'operations',
      })
      .expect(200);
    await operations.against(value.version, 'delete', `/role-grants/${value.id}`).expect(200);
  });
});

describe('roles', () => {
  it('add up, given to a person or to everyone in a team and below', async () => {
    const before = (await rep.records(ask('deal'), 1)).total;
    const all = (await operations.records(ask('deal'), 1)).total;
    const given = await operations
      .call('post', '/role-grants', { role: 'finance', person: rep.id })
      .expect(201);
    expect((await rep.records(ask('deal'), 1)).total).toBe(all);
    // What the other role does not let them do stays with the first.
    const foreign = (await rep.records(ask('deal', { field: 'owner', is: 'noneOf', value: [rep.id] })))
      .rows[0];
    await rep.against(foreign.version, 'patch', `/deals/${foreign.id}`, { externalId: 'x' }).expect(403);
    await operations.call('post', '/role-grants', { role: 'finance', person: rep.id }).expect(422);
    await undo(given.body);
    expect((await rep.records(ask('deal'), 1)).total).toBe(before);

    const { rows } = await operations.records(ask('team', { field: 'parent', is: 'isEmpty' }));
    const team = await operations
      .call('post', '/role-grants', { role: 'finance', team: rows[0].id })
      .expect(201);
    expect((await rep.records(ask('deal'), 1)).total).toBe(all);
    const { body } = await operations.call('get', `/people/${rep.id}/reach`).expect(200);
    expect((body as PersonReach).roles).toEqual([
      { key: 'rep', name: 'Rep', through: 'own', team: null },
      { key: 'finance', name: 'Finance', through: 'team', team: rows[0].id },
    ]);
    await undo(team.body);
  });

  it('say before they are changed who gains and loses what, in counts', async () => {
    const { stages } = operations.session;
    const rules = {
      reach: { deal: { see: 'all' }, lead: { delete: 'none' } },
      acts: { mergeRecords: false },
      fields: [{ object: 'contact', field: 'mobile', may: 'nothing' }],
      exceptions: [
        {
          object: 'deal',
          operations: ['see'],
          where: { field: 'stage', is: 'anyOf', value: [stages[0].id] },
          reach: 'none',
        },
      ],
    };
    const { body } = await operations.call('post', '/role-preview', { role: 'rep', rules }).expect(200);
    const preview = body as RolePreview;
    expect(preview.people).toHaveLength(10);
    const [all, first, own] = await Promise.all([
      operations.records(ask('deal'), 1),
      operations.records(ask('deal', { field: 'stage', is: 'anyOf', value: [stages[0].id] }), 1),
      rep.records(ask('deal'), 1),
    ]);
    const mine = preview.changes.filter(({ person }) => person === rep.id);
    expect(mine).toContainEqual({
      person: rep.id,
      object: 'deal',
      operation: 'see',
      before: own.total,
      after: all.total - first.total,
    });
    expect(mine.find(({ object, operation }) => object === 'lead' && operation === 'delete')?.after).toBe(0);
    expect(preview.acts).toContainEqual({
      person: rep.id,
      act: 'mergeRecords',
      operation: null,
      gains: false,
    });
    expect(preview.fields).toContainEqual({
      person: rep.id,
      object: 'contact',
      field: 'mobile',
      gains: false,
    });
    // Nothing was written.
    expect((await rep.records(ask('deal'), 1)).total).toBe(own.total);
    await operations.call('post', '/role-preview', { role: 'nobodys', rules }).expect(404);
    await operations
      .call('post', '/role-preview', { role: 'rep', rules: { reach: { deal: { edit: 'all' } } } })
      .expect(422);
  });

  it('tell what decides over one record', async () => {
    const { stages } = operations.session;
    const stage = stages[1].id;
    const where = { field: 'stage', is: 'anyOf', value: [stage] };
    const role = await make({
      reach: { deal: { see: 'all' } },
      exceptions: [{ object: 'deal', operations: ['see', 'edit'], where, reach: 'own' }],
    });
    const person = await named('person', 'Otto Zetterlund');
    const moved = await operations
      .against(person.version, 'patch', `/people/${person.id}`, { role: role.key })
      .expect(200);
    const others = { field: 'owner', is: 'noneOf' as const, value: [person.id] };
    const inStage = (await operations.records(ask('deal', { ...where, is: 'anyOf' }, others), 1)).rows[0];
    const elsewhere = (
      await operations.records(ask('deal', { field: 'stage', is: 'noneOf', value: [stage] }, others), 1)
    ).rows[0];
    const verdicts = async (id: number) => {
      const { body } = await operations.call('get', `/people/${person.id}/reach/deals/${id}`).expect(200);
      return new Map((body as RecordReach).verdicts.map((each) => [each.operation, each]));
    };
    const narrowed = await verdicts(inStage.id);
    expect(narrowed.get('see')).toMatchObject({ isAllowed: false, said: [{ reach: 'own', where }] });
    expect(narrowed.get('edit')).toMatchObject({ isAllowed: false, isUnseen: true });
    const free = await verdicts(elsewhere.id);
    expect(free.get('see')).toMatchObject({ isAllowed: true, said: [{ reach: 'all', where: null }] });
    expect(free.get('edit')).toMatchObject({
      isAllowed: false,
      isUnseen: false,
      said: [{ reach: 'shared', where: null }],
    });
    await rep.call('get', `/people/${person.id}/reach`).expect(403);
    await undo(moved.body);
  });
});

describe('a field that only some see', () => {
  it('is in no answer, question, total or file of those who do not, nor what is computed from it', async () => {
    const role = await named('role', 'Rep');
    const { body } = await change(role, {
      rules: JSON.stringify({
        fields: [
          { object: 'deal', field: 'probability', may: 'nothing' },
          { object: 'deal', field: 'closeOn', may: 'see' },
        ],
      }),
    }).expect(200);
    const deal = (await rep.records(ask('deal', { field: 'outcome', is: 'anyOf', value: ['open'] }), 1))
      .rows[0];
    const { body: read } = await rep.call('get', `/deals/${deal.id}`).expect(200);
    const { record } = read as { record: AnyRecord };
    expect(Object.keys(record)).not.toContain('probability');
    expect(Object.keys(record)).not.toContain('weighted');
    const sums = {
      questions: [{ ...ask('deal'), measures: [{ as: 'sum', of: 'weighted' }, { as: 'count' }] }],
    };
    const { body: figures } = await rep.call('post', '/questions/figures', sums).expect(200);
    expect((figures as { answers: { leftOut: { part: string }[] }[] }).answers[0].leftOut[0].part).toBe(
      'weighted',
    );
    const written = await rep
      .against(record.version, 'patch', `/deals/${deal.id}`, { externalId: 'Nordkai' })
      .expect(200);
    expect(Object.keys(valueOf(written))).not.toContain('probability');
    expect(Object.keys(valueOf(written))).not.toContain('weighted');
    const { version } = valueOf(written);
    await rep.against(version, 'patch', `/deals/${deal.id}`, { probability: 10 }).expect(422);
    await rep.against(version, 'patch', `/deals/${deal.id}`, { closeOn: '2027-01-01' }).expect(422);
    const stale = await rep
      .against(version - 1, 'patch', `/deals/${deal.id}`, { externalId: 'y' })
      .expect(409);
    expect(Object.keys((stale.body as ProblemBody).current ?? {})).not.toContain('probability');
    const { body: session } = await rep.call('get', '/session').expect(200);
    expect((session as SignedIn).actor.roles[0].fields).toHaveLength(2);
    await undo(body);
    expect(
      valueOf(await rep.against(version, 'patch', `/deals/${deal.id}`, { closeOn: '2027-01-01' }).expect(200))
        .closeOn,
    ).toBe('2027-01-01');
  });
});

describe('an import', () => {
  const preview = async (rows: string) => {
    const { body: look } = await rep
      .call('post', '/imports/files?name=contacts.csv&as=contact')
      .set('Content-Type', 'application/octet-stream')
      .send(`External id,Name,Email,Mobile\n${rows}`)
      .expect(201);
    const { file, setup } = look as ImportLook;
    const { body } = await rep.call('post', '/imports/preview', { file, setup }).expect(200);
    return { preview: body as ImportPreview, file, setup };
  };

  it('refuses by row what the role does not let one change, and brings in the rest', async () => {
    const given = await operations
      .call('post', '/role-grants', { role: 'readOnly', person: rep.id })
      .expect(201);
    const values = {
      name: 'Kept by another',
      externalId: 'k-1',
      relationship: 'prospect',
      owner: operations.id,
    };
    await operations.call('post', '/contacts', values).expect(201);
    const {
      preview: seen,
      file,
      setup,
    } = await preview('k-1,Kept by another,other@kept.example,\nk-2,Newly brought,new@kept.example,\n');
    expect(seen.counts).toMatchObject({ create: 1, update: 0 });
    expect(JSON.stringify(seen.refused)).toContain(
      'Your role does not let you change the contact “Kept by another”, which is on file',
    );
    const { body: run } = await rep.call('post', '/imports', { file, fileName: 'c.csv', setup }).expect(201);
    const { id } = run as ImportSummary;
    await server.app.get(Imports).settled(id);
    expect((await rep.call('get', `/imports/${id}`).expect(200)).body).toMatchObject({ state: 'done' });
    await undo(given.body);
  });

  it('fills no field that is hidden, and changes none that is not one’s to change', async () => {
    const role = await named('role', 'Rep');
    const fields = [
      { object: 'contact', field: 'mobile', may: 'nothing' },
      { object: 'contact', field: 'email', may: 'see' },
    ];
    const { body } = await change(role, { rules: JSON.stringify({ fields }) }).expect(200);
    const values = { name: 'Mine own', externalId: 'k-3', relationship: 'prospect', mobile: '+441632960111' };
    const mine = valueOf(
      await operations.call('post', '/contacts', { ...values, owner: rep.id }).expect(201),
    );
    const hidden = await preview(
      'k-3,Mine own,,+441632960999\nk-4,Another one,a@own.example,+441632960998\n',
    );
    expect(hidden.setup.columns).not.toContain('mobile');
    // The number is taken for another one, and stands where that does; the hidden one stays as it was.
    expect(hidden.preview.counts).toMatchObject({ create: 1, update: 1 });
    const forced = { ...hidden.setup, columns: ['externalId', 'name', 'email', 'mobile'] };
    const asked = await rep
      .call('post', '/imports/preview', { file: hidden.file, setup: forced })
      .expect(422);
    expect(detailOf(asked)).toMatch(/Column 4/);
    const locked = await preview('k-3,Mine own,changed@own.example,\n');
    expect(JSON.stringify(locked.preview.refused)).toContain('Your role does not let you change Email');
    const { body: read } = await operations.call('get', `/contacts/${mine.id}`).expect(200);
    expect((read as { record: AnyRecord }).record).toMatchObject({ mobile: '+441632960111', email: null });
    await undo(body);
  });
});

describe('a timeline', () => {
  it('tells nothing of others where the field that says whose something is cannot be seen', async () => {
    const role = await named('role', 'Rep');
    const add = async (name: string) =>
      valueOf(
        await operations
          .call('post', '/contacts', { name, relationship: 'prospect', owner: rep.id })
          .expect(201),
      );
    const [quiet, busy] = [await add('Quiet Loxley'), await add('Busy Loxley')];
    const call = {
      kind: 'call',
      name: 'Rang about the pier',
      owner: rep.id,
      dueOn: '2026-11-20',
      contact: busy.id,
    };
    const { id, version } = valueOf(await operations.call('post', '/activities', call).expect(201));
    await operations.against(version, 'post', `/activities/${id}/done`, { outcome: 'noAnswer' }).expect(200);
    const told = async (contact: number) =>
      (await rep.call('get', `/contacts/${contact}/timeline`).expect(200)).text;
    expect([await told(busy.id), await told(quiet.id)].map((text) => text.includes('the pier'))).toEqual([
      true,
      false,
    ]);
    const fields = [{ object: 'activity', field: 'contact', may: 'nothing' }];
    const { body } = await change(role, { rules: JSON.stringify({ fields }) }).expect(200);
    for (const each of [busy, quiet]) expect(await told(each.id)).not.toContain('"kind":"activity"');
    const { actor } = (await rep.call('get', '/session').expect(200)).body as SignedIn;
    const gate = server.app.get(Gate);
    const about = ask('activity', { field: 'contact', is: 'anyOf', value: [quiet.id] });
    expect((await gate.records(actor, about, { offset: 0, limit: 5 })).rows).toEqual([]);
    expect([await gate.count(actor, about), await gate.few(actor, about, ['id'])]).toEqual([0, []]);
    expect((await gate.figures(actor, about)).rows).toEqual([]);
    // Where the answer is shown with what was left out, it is as wide as it says.
    const shown = await gate.figures(actor, about, 'leftOut');
    expect(shown.leftOut).toMatchObject([{ at: 'where', part: 'contact' }]);
    expect(shown.rows[0].figures[0]).toBeGreaterThan(0);
    await undo(body);
    expect(await told(busy.id)).toContain('the pier');
  });
});

describe('merging', () => {
  it('chooses no value of a field that is not one’s to change, and tells none that is hidden', async () => {
    const role = await named('role', 'Rep');
    const fields = [{ object: 'contact', field: 'mobile', may: 'nothing' }];
    const { body } = await change(role, { rules: JSON.stringify({ fields }) }).expect(200);
    const two = [];
    for (const mobile of ['+441632960222', '+441632960333'])
      two.push(
        valueOf(
          await operations
            .call('post', '/contacts', {
              name: 'Twice There',
              relationship: 'prospect',
              mobile,
              owner: rep.id,
            })
            .expect(201),
        ),
      );
    const [survivor, other] = two.map(({ id }) => id);
    const pair = { object: 'contact', survivor, other };
    const shown = await rep.call('post', '/duplicates/preview', pair).expect(200);
    expect(shown.text).not.toContain('+441632960');
    const merge = (version: number, take: object) =>
      rep.against(version, 'post', '/duplicates/merge', { ...pair, take });
    await merge(1, { mobile: 'other' }).expect(403);
    const stale = await merge(9, {});
    expect([stale.status, stale.text.includes('+441632960')]).toEqual([409, false]);
    const merged = await merge(1, {}).expect(200);
    expect(merged.text).not.toContain('+441632960');
    await undo(body);
    const { body: read } = await operations.call('get', `/contacts/${survivor}`).expect(200);
    expect((read as { record: AnyRecord }).record.mobile).toBe('+441632960222');
  });
});

describe('a record', () => {
  it('is shared with a person until a day, to be seen or to be changed, with what hangs on it', async () => {
    const lars = await Caller.signIn(server, 'lars.westerholt');
    const account = (await rep.records(ask('account'), 1)).rows[0];
    await rep.call('post', '/notes', { body: 'Keys are at the gate', account: account.id }).expect(201);
    const address = `/accounts/${account.id}`;
    await lars.call('get', address).expect(404);
    const share = { account: account.id, person: lars.id, may: 'see', until: '2026-11-19' };
    const { body } = await rep.call('post', '/shares', share).expect(201);
    const { value } = body as Written<AnyRecord>;
    await lars.call('get', address).expect(200);
    expect((await lars.call('get', `${address}/timeline`)).text).toContain('Keys are at the gate');
    const { body: hits } = await lars
      .call('get', `/search?q=${encodeURIComponent(String(account.name))}`)
      .expect(200);
    expect((hits as { hits: { id: number }[] }).hits.map(({ id }) => id)).toContain(account.id);
    await lars.against(account.version, 'patch', address, { city: 'Elsewhere' }).expect(403);
    await rep.call('post', '/shares', share).expect(422);
    const { body: wider } = await rep
      .against(value.version, 'patch', `/shares/${value.id}`, { may: 'edit' })
      .expect(200);
    await lars.against(account.version, 'patch', address, { city: 'Elsewhere' }).expect(200);
    // It is not theirs to hand on.
    const niamh = await named('person', 'Niamh Kilbrannan');
    const handedOn = await lars.call('post', '/shares', {
      account: account.id,
      person: niamh.id,
      may: 'see',
    });
    expect([handedOn.status, detailOf(handedOn)]).toEqual([
      422,
      expect.stringMatching(/It is shared with you/),
    ]);
    const { value: now } = wider as Written<AnyRecord>;
    await rep.against(now.version, 'patch', `/shares/${value.id}`, { until: '2026-11-18' }).expect(200);
    await lars.call('get', address).expect(404);
  });

  it.each([
    ['nothing', { may: 'see' }],
    ['nobody', { account: 1, may: 'see' }],
    ['two at once', { account: 1, deal: 1, person: 2, may: 'see' }],
    ['a person and a team', { account: 1, person: 2, team: 1, may: 'see' }],
  ])('is not shared with %s', async (_, body) => {
    await operations.call('post', '/shares', body).expect(422);
  });

  it('of somebody else is not shared by who only sees it', async () => {
    const given = await operations
      .call('post', '/role-grants', { role: 'readOnly', person: rep.id })
      .expect(201);
    const foreign = (await rep.records(ask('deal', { field: 'owner', is: 'noneOf', value: [rep.id] })))
      .rows[0];
    await rep.call('post', '/shares', { deal: foreign.id, person: operations.id, may: 'see' }).expect(403);
    await undo(given.body);
  });
});

describe('a role that asks for a second step', () => {
  it('opens nothing else until it is set up, to browsers that are open too', async () => {
    const role = await named('role', 'Rep');
    const lars = await Caller.signIn(server, 'lars.westerholt');
    const { body } = await change(role, { secondStep: true }).expect(200);
    const refused = await lars.call('get', '/leads').expect(403);
    expect((refused.body as ProblemBody).type).toBe('/problems/second-step-due');
    const { body: session } = await lars.call('get', '/session').expect(200);
    expect((session as SignedIn).owesSecondStep).toBe(true);
    await lars.call('post', '/session/second-step').expect(201);
    await undo(body);
    await lars.call('get', '/leads').expect(200);
  });
});
