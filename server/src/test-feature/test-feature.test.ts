import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  objectType,
  type AnyRecord,
  type ObjectKey,
  type ProblemBody,
  type RecordAnswer,
  type RecordsPage,
  type TimelinePage,
  type UnitsPage,
  type Written,
} from '@zawn/core';
import { Caller, startServer, type TestServer } from '../testing';
import { testFeature } from './feature';
import { type testObjects } from './objects';

// The two lists that a feature joins beside those it is handed to the server in.
jest.mock('../../../core/src/kernel/catalogue/objects', () => {
  const { objects } = jest.requireActual<{ objects: object }>('../../../core/src/kernel/catalogue/objects');
  const own = jest.requireActual<{ testObjects: typeof testObjects }>('./objects').testObjects;
  return { objects: { ...objects, ...own } };
});
jest.mock('../platform/database/migrations', () => {
  const { migrations } = jest.requireActual<{ migrations: object[] }>('../platform/database/migrations');
  const { Estimating1799999999000: own } = jest.requireActual<{ Estimating1799999999000: object }>(
    './feature',
  );
  return { migrations: [...migrations, own] };
});

interface Line {
  id?: number;
  name?: string;
  quantity?: unknown;
  price?: number;
}

let server: TestServer;
let rep: Caller;
let other: Caller;
let account: number;
let binder: number;

// The demo that other tests share knows nothing of these tables.
const demos = mkdtempSync(join(tmpdir(), 'zawn-demos-'));

beforeAll(async () => {
  process.env.ZAWN_TEST_DEMOS = demos;
  server = await startServer({ demo: true, features: testFeature, isDescribed: false });
  rep = await Caller.signIn(server, 'tamsin.rudd');
  other = await Caller.signIn(server, 'ewan.castellin');
  const page = (await rep.call('get', '/accounts?limit=1').expect(200)).body as RecordsPage;
  account = page.rows[0].id;
  binder = (await make('/binders', { name: 'Autumn', owner: rep.id })).value.id;
});
afterAll(async () => {
  await server.close();
  rmSync(demos, { recursive: true, force: true });
});

const make = async (path: string, values: object) =>
  (await rep.call('post', path, values).expect(201)).body as Written<AnyRecord>;
const gauge: Line = { name: 'Tide gauge', quantity: 2, price: 150_000 };
const cable: Line = { name: 'Cable', quantity: 30, price: 400 };
const estimateWith = (lines: Line[], more: object = {}) =>
  make('/estimates', {
    name: 'Quay',
    currency: 'GBP',
    owner: rep.id,
    account,
    filedIn: binder,
    lines,
    ...more,
  });
const read = async (id: number, who = rep) =>
  (await who.call('get', `/estimates/${id}`).expect(200)).body as RecordAnswer;
const linesOf = ({ parts = {} }: RecordAnswer) => parts.lines;
const namesOf = (answer: RecordAnswer) => linesOf(answer).map(({ name }) => name);
const undo = (unit: number) => rep.call('post', `/units/${unit}/undo`).expect(200);
const pieces = async () => ((await rep.call('get', `/binders/${binder}`)).body as RecordAnswer).record.pieces;

describe('a feature that joins the lists only', () => {
  it('has its objects in the catalogue', () => {
    expect(objectType('estimate' as ObjectKey).path).toBe('estimates');
  });

  it('writes a record with its parts in one request, in order, with what follows from them', async () => {
    const { value } = await estimateWith([gauge, cable]);
    const answer = await read(value.id);
    expect(answer.record).toMatchObject({ total: 312_000, pieces: 32, version: 1 });
    expect(linesOf(answer).map(({ name, position, amount }) => [name, position, amount])).toEqual([
      ['Tide gauge', 0, 300_000],
      ['Cable', 1, 12_000],
    ]);
  });

  it('changes, adds, reorders and takes out parts, under the one version', async () => {
    const { value } = await estimateWith([gauge, cable]);
    const [first, second] = linesOf(await read(value.id));
    const lines = [
      { ...cable, id: second.id, quantity: 10 },
      { name: 'Visit', quantity: 1, price: 90_000 },
    ];
    await rep.against(1, 'patch', `/estimates/${value.id}`, { lines }).expect(200);
    const answer = await read(value.id);
    expect(namesOf(answer)).toEqual(['Cable', 'Visit']);
    expect(linesOf(answer)[0]).toMatchObject({ id: second.id, quantity: 10, position: 0 });
    expect(linesOf(answer).map(({ id }) => id)).not.toContain(first.id);
    expect(answer.record).toMatchObject({ total: 94_000, pieces: 11, version: 2 });
    await rep.against(1, 'patch', `/estimates/${value.id}`, { lines: [] }).expect(409);
    expect(namesOf(await read(value.id))).toEqual(['Cable', 'Visit']);
  });

  it('makes a new version when only a part changed, and none when nothing did', async () => {
    const { value } = await estimateWith([gauge]);
    const [line] = linesOf(await read(value.id));
    const same = { lines: [{ id: line.id, name: 'Tide gauge', quantity: 2, price: 150_000 }] };
    await rep.against(1, 'patch', `/estimates/${value.id}`, same).expect(200);
    expect((await read(value.id)).record.version).toBe(1);
    const renamed = { lines: [{ id: line.id, name: 'Level gauge' }] };
    await rep.against(1, 'patch', `/estimates/${value.id}`, renamed).expect(200);
    expect((await read(value.id)).record).toMatchObject({ version: 2, total: 300_000 });
  });

  it('says at its place what is wrong with a part, and writes nothing', async () => {
    const before = ((await rep.call('get', '/estimates')).body as RecordsPage).total;
    const lines = [gauge, { name: '', quantity: 'two', price: 1 }, { id: 999, ...cable }];
    const values = { name: 'Wrong', currency: 'GBP', owner: rep.id, lines };
    const { faults } = (await rep.call('post', '/estimates', values).expect(422)).body as ProblemBody;
    expect(faults?.map(({ field }) => field)).toEqual(['lines.1.name', 'lines.1.quantity', 'lines.2.id']);
    expect(faults?.[0].message).toMatch(/^Line 2: /);
    const { body } = await rep.call('post', '/estimates', { ...values, lines: 'two' }).expect(422);
    expect((body as ProblemBody).faults).toEqual([{ field: 'lines', message: 'A list is expected' }]);
    expect(((await rep.call('get', '/estimates')).body as RecordsPage).total).toBe(before);
  });

  it('takes another record’s part for none of its own', async () => {
    const { value: theirs } = await estimateWith([gauge]);
    const { value } = await estimateWith([cable]);
    const [line] = linesOf(await read(theirs.id));
    const lines = [{ id: line.id, name: 'Mine now' }];
    await rep.against(1, 'patch', `/estimates/${value.id}`, { lines }).expect(422);
    expect(namesOf(await read(theirs.id))).toEqual(['Tide gauge']);
  });

  it('undoes as one what was written as one, and does it again', async () => {
    const { value } = await estimateWith([gauge, cable]);
    const [first] = linesOf(await read(value.id));
    const change = await rep
      .against(1, 'patch', `/estimates/${value.id}`, { name: 'Pier', lines: [{ id: first.id, quantity: 5 }] })
      .expect(200);
    const undone = await undo((change.body as Written<AnyRecord>).unit);
    const back = await read(value.id);
    expect(back.record).toMatchObject({ name: 'Quay', total: 312_000, pieces: 32 });
    expect(linesOf(back).map(({ name, quantity }) => [name, quantity])).toEqual([
      ['Tide gauge', 2],
      ['Cable', 30],
    ]);
    await undo((undone.body as Written<null>).unit);
    expect((await read(value.id)).record).toMatchObject({ name: 'Pier', total: 750_000, pieces: 5 });
  });

  it('goes to the bin with its parts and comes back with them', async () => {
    const { value, unit } = await estimateWith([gauge, cable]);
    const { body } = await rep.against(1, 'delete', `/estimates/${value.id}`).expect(200);
    const lines = (await rep.call('get', `/estimate-lines?estimate=${value.id}`)).body as RecordsPage;
    expect(lines.total).toBe(0);
    await undo((body as Written<null>).unit);
    expect(namesOf(await read(value.id))).toEqual(['Tide gauge', 'Cable']);
    expect(unit).toBeGreaterThan(0);
  });

  it('is taken back with its parts when its making is undone', async () => {
    const { value, unit } = await estimateWith([gauge, cable]);
    await undo(unit);
    await rep.call('get', `/estimates/${value.id}`).expect(404);
  });

  it('shows its parts to whoever sees it, and to nobody else', async () => {
    const { value } = await estimateWith([gauge], { account: null });
    await other.call('get', `/estimates/${value.id}`).expect(404);
    const seen = async (who: Caller) =>
      ((await who.call('get', `/estimate-lines?estimate=${value.id}`)).body as RecordsPage).total;
    expect([await seen(rep), await seen(other)]).toEqual([1, 0]);
  });

  it('has its parts changed nowhere but with it', async () => {
    const { value } = await estimateWith([gauge]);
    const [line] = linesOf(await read(value.id));
    const detail = ({ body }: { body: unknown }) => (body as ProblemBody).detail;
    const refused = 'This is a part of its estimate. Change it there.';
    const alone = { ...gauge };
    expect(detail(await rep.call('post', '/estimate-lines', alone).expect(403))).toBe(refused);
    const path = `/estimate-lines/${line.id}`;
    expect(detail(await rep.against(1, 'patch', path, { quantity: 9 }).expect(403))).toBe(refused);
    expect(detail(await rep.against(1, 'delete', path).expect(403))).toBe(refused);
  });

  it('derives from what was derived, across a link of any name', async () => {
    const before = Number(await pieces());
    const { value, unit } = await estimateWith([gauge]);
    expect(await pieces()).toBe(before + 2);
    const [line] = linesOf(await read(value.id));
    const lines = [{ id: line.id, quantity: 7 }];
    await rep.against(1, 'patch', `/estimates/${value.id}`, { lines }).expect(200);
    expect(await pieces()).toBe(before + 7);
    const { version } = (await read(value.id)).record;
    await rep.against(version, 'delete', `/estimates/${value.id}`).expect(200);
    expect(await pieces()).toBe(before);
    expect(unit).toBeGreaterThan(0);
  });

  it('answers at its own route, and stands on the timeline and among one’s changes', async () => {
    const { value } = await estimateWith([gauge]);
    const { body } = await rep.call('get', `/estimates/${value.id}/average`).expect(200);
    expect(body).toEqual({ average: 150_000 });
    const timeline = (await rep.call('get', `/accounts/${account}/timeline`).expect(200))
      .body as TimelinePage;
    expect(timeline.rows.filter(({ kind }) => (kind as string) === 'estimate').length).toBeGreaterThan(0);
    const changes = (await rep.call('get', '/changes').expect(200)).body as UnitsPage;
    expect(changes.rows[0]).toMatchObject({ label: 'Created estimate “Quay”', records: 2 });
  });
});
