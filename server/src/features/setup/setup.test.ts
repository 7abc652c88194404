import {
  ask,
  choiceListOf,
  choicesIn,
  type AnyRecord,
  type Choice,
  type ChoiceListKey,
  type ImportLook,
  type ImportPreview,
  type SignedIn,
  type Written,
} from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';

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

const written = (body: unknown) => (body as Written<AnyRecord>).value;
const faultsOf = (body: unknown) =>
  (body as { faults: { message: string }[] }).faults.map(({ message }) => message);
const newField = (more: object) => ({
  object: 'lead',
  key: 'x_hull',
  label: 'Hull',
  type: 'choice',
  choices: JSON.stringify([{ key: 'steel', label: 'Steel' }]),
  required: false,
  position: 50,
  retired: false,
  ...more,
});
const make = async (list: ChoiceListKey, change: (all: Choice[]) => unknown) => {
  const choices = JSON.stringify(change([...choiceListOf(list).choices]));
  return operations.call('post', '/choice-lists', { list, choices });
};

describe('a list of choices', () => {
  it('is made the organisation’s own, renamed, reordered and added to, and then known everywhere', async () => {
    const made = await make('source', ([first, ...rest]) => [
      ...rest,
      { ...first, label: 'Fair or show' },
      { key: 'pigeon', label: 'Pigeon post' },
    ]);
    expect(made.status).toBe(201);
    expect(made.body).toMatchObject({ label: 'Created list of choices “Sources”' });
    await rep
      .call('post', '/leads', { name: 'A', status: 'working', source: 'pigeon', owner: rep.id })
      .expect(201);
    const { body } = await rep.call('get', '/session').expect(200);
    const own = (body as SignedIn).choiceLists.find(({ list }) => list === 'source');
    expect(choicesIn(own?.choices ?? null).slice(-2)).toEqual([
      { key: 'fair', label: 'Fair or show' },
      { key: 'pigeon', label: 'Pigeon post' },
    ]);
    const file = await rep
      .call('post', '/imports/files?name=a.csv&as=lead')
      .set('Content-Type', 'application/octet-stream')
      .send(Buffer.from('Name,Source\nB,Pigeon post\nC,Fair or show\n') as never)
      .expect(201);
    const { file: name, setup } = file.body as ImportLook;
    const preview = await rep.call('post', '/imports/preview', { file: name, setup }).expect(200);
    expect((preview.body as ImportPreview).counts).toMatchObject({ create: 2, refuse: 0 });
    const again = await make('source', (all) => all);
    expect(faultsOf(again.body)).toEqual(['Sources are the organisation’s own already']);
  });

  it('keeps a retired choice by name on the records that hold it, for nobody else to choose', async () => {
    const mine = written(
      (
        await rep.call('post', '/leads', {
          name: 'B',
          status: 'working',
          timeFrame: 'month',
          interest: 'x',
          owner: rep.id,
        })
      ).body,
    );
    const lists = ask('choiceList', { field: 'list', is: 'anyOf', value: ['industry'] });
    const [industry] = (await operations.records(lists)).rows;
    const [account] = (
      await rep.records(ask('account', { field: 'industry', is: 'anyOf', value: ['harbour'] }))
    ).rows;
    const retired = choicesIn(String(industry.choices)).map((choice) =>
      choice.key === 'harbour' ? { ...choice, retired: true as const } : choice,
    );
    await operations
      .against(industry.version, 'patch', `/choice-lists/${industry.id}`, {
        choices: JSON.stringify(retired),
      })
      .expect(200);
    await rep.against(account.version, 'patch', `/accounts/${account.id}`, { city: 'Elsewhere' }).expect(200);
    await rep
      .against(account.version + 1, 'patch', `/accounts/${account.id}`, { industry: 'water' })
      .expect(200)
      .then(async ({ body }) => {
        const refused = await rep
          .against(account.version + 2, 'patch', `/accounts/${account.id}`, { industry: 'harbour' })
          .expect(422);
        expect(faultsOf(refused.body)).toEqual(['Industry is not one of the choices']);
        // What is taken back may hold it.
        await rep.call('post', `/units/${(body as Written<unknown>).unit}/undo`).expect(200);
      });
    expect((await rep.call('get', `/accounts/${account.id}`)).body).toMatchObject({
      record: { industry: 'harbour' },
    });
    expect(mine.timeFrame).toBe('month');
  });

  it.each<[string, ChoiceListKey, (all: Choice[]) => unknown, string]>([
    [
      'one taken out',
      'disqualifyReason',
      (all) => all.slice(1),
      'Retire “No need” instead of taking it out: records may hold it',
    ],
    [
      'two of one label',
      'disqualifyReason',
      (all) => [...all, { key: 'b', label: 'NO NEED' }],
      '“NO NEED” stands there twice',
    ],
    ['two of one key', 'disqualifyReason', (all) => [...all, all[0]], 'Two choices have the same key'],
    [
      'all retired',
      'disqualifyReason',
      (all) => all.map((each) => ({ ...each, retired: true })),
      'At least one choice must be left to choose',
    ],
    [
      'one Zawn needs retired',
      'activityKind',
      (all) => all.map((each) => ({ ...each, retired: true })),
      '“Task” is needed and cannot be retired',
    ],
    ['a status of no kind', 'leadStatus', (all) => [...all, { key: 'odd', label: 'Odd' }], 'Kind is missing'],
    ['something else', 'disqualifyReason', () => 'price', 'Choices must be an array'],
    [
      'a detail of other lists',
      'disqualifyReason',
      (all) => [{ ...all[0], days: 3 }, ...all.slice(1)],
      '[0].days is not allowed',
    ],
  ])('with %s is refused, and nothing is written', async (_, list, change, message) => {
    const { status, body } = await make(list, change);
    expect(status).toBe(422);
    expect(faultsOf(body).join(' ')).toContain(message);
  });

  it('is operations’ to change', async () => {
    const choices = JSON.stringify(choiceListOf('disqualifyReason').choices);
    await rep.call('post', '/choice-lists', { list: 'disqualifyReason', choices }).expect(403);
  });
});

describe('a custom field', () => {
  it('is at once in checks, questions and the API, and gone when it is retired, its values kept', async () => {
    const field = written((await operations.call('post', '/custom-fields', newField({})).expect(201)).body);
    const lead = written(
      (
        await rep
          .call('post', '/leads', { name: 'Hull owner', status: 'working', x_hull: 'steel', owner: rep.id })
          .expect(201)
      ).body,
    );
    const question = ask('lead', { field: 'x_hull', is: 'anyOf', value: ['steel'] });
    expect((await rep.records(question)).total).toBe(1);
    await operations.against(1, 'patch', `/custom-fields/${field.id}`, { retired: true }).expect(200);
    expect((await rep.records(question)).leftOut).toHaveLength(1);
    await rep.against(lead.version, 'patch', `/leads/${lead.id}`, { x_hull: 'steel' }).expect(422);
    await operations.against(2, 'patch', `/custom-fields/${field.id}`, { retired: false }).expect(200);
    expect((await rep.records(question)).total).toBe(1);
  });

  it('changes its type only where no value is lost', async () => {
    const text = newField({ key: 'x_mooring', label: 'Mooring', type: 'text', choices: null });
    const field = written((await operations.call('post', '/custom-fields', text).expect(201)).body);
    const change = (version: number, type: string) =>
      operations.against(version, 'patch', `/custom-fields/${field.id}`, { type });
    await change(1, 'number').expect(200);
    await change(2, 'text').expect(200);
    await rep
      .call('post', '/leads', { name: 'M', status: 'working', x_mooring: 'Two buoys', owner: rep.id })
      .expect(201);
    const refused = await change(3, 'number').expect(422);
    expect(faultsOf(refused.body)).toEqual([
      '1 record holds a value that would be lost. Retire this field and make another',
    ]);
    await change(3, 'longText').expect(200);
    expect(
      (await rep.records(ask('lead', { field: 'x_mooring', is: 'contains', value: 'buoys' }))).total,
    ).toBe(1);
  });

  it('that is required is asked of new records and leaves old ones as they are', async () => {
    const [old] = (await rep.records(ask('lead', { field: 'status', is: 'anyOf', value: ['working'] }))).rows;
    const needed = newField({ key: 'x_basin', label: 'Basin', type: 'text', choices: null, required: true });
    const field = written((await operations.call('post', '/custom-fields', needed).expect(201)).body);
    await rep.against(old.version, 'patch', `/leads/${old.id}`, { city: 'Skerry' }).expect(200);
    const { body } = await rep
      .call('post', '/leads', { name: 'N', status: 'working', owner: rep.id })
      .expect(422);
    expect(faultsOf(body)).toEqual(['Basin is missing']);
    await operations.against(1, 'patch', `/custom-fields/${field.id}`, { required: false }).expect(200);
  });

  it.each([
    [{ key: 'hull' }, 'begins with x_'],
    [{ key: 'x_hull' }, 'This key belongs to “Hull” already'],
    [{ key: 'x_new', choices: '[]' }, 'There must be at least one choice'],
    [{ key: 'x_new', type: 'link', to: 'shoe' }, 'What it links to is missing'],
    [{ key: 'x_new', type: 'shoe' }, 'Type is not one of the choices'],
  ])('of no sense is refused: %j', async (more, message) => {
    const { body } = await operations.call('post', '/custom-fields', newField(more)).expect(422);
    expect(faultsOf(body).join(' ')).toContain(message);
  });
});

describe('the short form for a new record', () => {
  const say = (keys: unknown, object = 'account') =>
    operations.call('post', '/quick-adds', { object, fields: JSON.stringify(keys) });

  it('asks for fields that can be filled in, said once', async () => {
    await say([]).expect(422);
    await say(['name', 'name']).expect(422);
    await say(['name', 'x_gone']).expect(422);
    await say(['lastTouchAt']).expect(422);
    await say('name').expect(422);
    await say(['name', 'postcode']).expect(201);
    await say(['name']).expect(409);
    await rep.call('post', '/quick-adds', { object: 'deal', fields: '["name"]' }).expect(403);
  });
});

describe('what new records begin with in a field of one’s own', () => {
  const lead = (more: object = {}) =>
    rep.call('post', '/leads', { name: 'Begun', status: 'working', owner: rep.id, ...more });

  it('is filled in where nothing is said, and left empty where that is said', async () => {
    const field = newField({ key: 'x_berth', label: 'Berth', preset: '"steel"', required: true });
    await operations.call('post', '/custom-fields', field).expect(201);
    expect(written((await lead().expect(201)).body)).toMatchObject({ x_berth: 'steel' });
    const other = newField({ key: 'x_depth', label: 'Depth', type: 'number', choices: null, preset: '12' });
    await operations.call('post', '/custom-fields', other).expect(201);
    expect(written((await lead().expect(201)).body)).toMatchObject({ x_depth: 12 });
    expect(written((await lead({ x_depth: null }).expect(201)).body)).toMatchObject({ x_depth: null });
    expect(written((await lead({ x_depth: 3 }).expect(201)).body)).toMatchObject({ x_depth: 3 });
  });

  it('must be a value of the field', async () => {
    for (const preset of ['"wood"', '12', 'steel', '{}'])
      await operations
        .call('post', '/custom-fields', newField({ key: 'x_mast', label: 'Mast', preset }))
        .expect(422);
  });
});
