import ExcelJS from 'exceljs';
import Papa from 'papaparse';
import {
  readyReports,
  type CompareAnswer,
  type RecordOf,
  type DifferencesAnswer,
  type Folder,
  type FrozenAnswer,
  type FrozenRecordsAnswer,
  type ReportAnswer,
  type ReportDesign,
  type Snapshot,
  type Written,
} from '@zawn/core';
import { Gate } from '../../kernel/questions/gate';
import { Database } from '../../platform/database/database';
import { Caller, inBytes, startServer, type TestServer } from '../../testing';

let server: TestServer;
let director: Caller;
let manager: Caller;
let rep: Caller;
let far: Caller;
beforeAll(async () => {
  server = await startServer({ demo: true });
  director = await Caller.signIn(server, 'signe.abernock');
  manager = await Caller.signIn(server, 'maren.ollerby');
  rep = await Caller.signIn(server, 'tamsin.rudd');
  far = await Caller.signIn(server, 'lars.westerholt');
});
afterAll(() => server.close());

const folderOf = async (who: Caller, more: object = {}): Promise<Folder> => {
  const answer = await who
    .call('post', '/folders', { name: 'Monthly', sharing: 'private', ...more })
    .expect(201);
  return (answer.body as Written<Folder>).value;
};

const byOwner: ReportDesign = {
  version: 1,
  question: {
    version: 1,
    object: 'deal',
    where: { field: 'outcome', is: 'anyOf', value: ['open'] },
    groups: [{ field: 'owner' }],
  },
  figures: [
    { key: 'deals', measure: { as: 'count' } },
    { key: 'value', measure: { as: 'sum', of: 'value' } },
    { key: 'median', measure: { as: 'median', of: 'value' } },
  ],
  draw: 'bars',
};

async function frozen(who: Caller, folder: number, more: object = {}): Promise<Snapshot> {
  const body = { design: byOwner, name: 'Open pipeline', folder, seenBy: 'each', ...more };
  const answer = await who.call('post', '/snapshots/freeze', body).expect(201);
  return (answer.body as Written<Snapshot>).value;
}

const shown = async (who: Caller, { id }: { id: number }): Promise<FrozenAnswer> =>
  (await who.call('get', `/snapshots/${id}/frozen`).expect(200)).body as FrozenAnswer;

const answered = async (who: Caller, design: ReportDesign): Promise<ReportAnswer> =>
  (await who.call('post', '/reports/answer', { design }).expect(200)).body as ReportAnswer;

const inFolder = async (who: Caller, folder: number): Promise<Snapshot[]> => {
  const question = {
    version: 1,
    object: 'snapshot',
    where: { field: 'folder', is: 'anyOf', value: [folder] },
  };
  const { body } = await who
    .call('post', '/questions/records', { question, offset: 0, limit: 9 })
    .expect(200);
  return (body as { rows: Snapshot[] }).rows;
};

const figuresOf = (answer: ReportAnswer | undefined) =>
  answer?.rows.map(({ keys, count, figures, split, rest }) => [
    keys,
    count,
    figures.map(rounded),
    split?.map((each) => each.figures.map(rounded)) ?? [],
    rest ?? 0,
  ]);
/** Sums of fractions come out in another order. */
const rounded = (value: number | null) => (value === null ? null : Number(value.toPrecision(10)));

describe('a snapshot', () => {
  it('says what the report says, for every report that comes with Zawn', async () => {
    const { id } = await folderOf(manager);
    for (const { key, design } of readyReports) {
      const snapshot = await frozen(manager, id, { design, name: key });
      const [then, now] = [await shown(manager, snapshot), await answered(manager, design)];
      expect([key, figuresOf(then.answer)]).toEqual([key, figuresOf(now)]);
      expect([key, then.answer?.splits]).toEqual([key, now.splits]);
      expect([key, then.records]).toEqual([key, snapshot.records]);
    }
  });

  it('stays as it is when its records change, are let go of, and go', async () => {
    const { id } = await folderOf(rep);
    const snapshot = await frozen(rep, id);
    const before = await shown(rep, snapshot);
    const place = { place: { keys: [rep.id], figure: 'deals' } };
    const behind = async () =>
      (await rep.call('post', `/snapshots/${snapshot.id}/records`, place).expect(200))
        .body as FrozenRecordsAnswer;
    const records = await behind();
    expect(records.total).toBe(before.answer?.rows.find(({ keys }) => keys[0] === rep.id)?.count);
    const [one, two] = records.rows;
    const deal = async (id: number) =>
      ((await rep.call('get', `/deals/${id}`).expect(200)).body as { record: { version: number } }).record;
    const version = async (id: number) => ({ 'If-Match': `"${(await deal(id)).version}"` });
    await rep
      .call('patch', `/deals/${one.id}`, { name: 'Renamed', value: 1 }, await version(one.id))
      .expect(200);
    await rep.call('delete', `/deals/${two.id}`, undefined, await version(two.id)).expect(200);
    expect(await shown(rep, snapshot)).toEqual(before);
    const after = await behind();
    expect(after.rows.map(({ name }) => name)).toEqual(records.rows.map(({ name }) => name));
    expect(after.rows.find((each) => each.id === two.id)?.isThere).toBe(false);
  });

  it('shows each reader the records that they see, and says how many that are', async () => {
    const { id } = await folderOf(director, { sharing: 'everyone' });
    const snapshot = await frozen(director, id);
    const [all, theirs] = [await shown(director, snapshot), await shown(rep, snapshot)];
    expect(theirs.records).toBe(all.records);
    expect(theirs.seen).toBeLessThan(all.seen);
    expect(figuresOf(theirs.answer)).toEqual(figuresOf(await answered(rep, byOwner)));
    const hidden = await far.call('post', `/snapshots/${snapshot.id}/records`, { place: { keys: [rep.id] } });
    expect((hidden.body as FrozenRecordsAnswer).total).toBe(0);
  });

  it('says to a reader what the report says to them, for every report that comes with Zawn', async () => {
    const { id } = await folderOf(director, { sharing: 'everyone' });
    // What means whoever asks means who froze it.
    const others = readyReports.filter(({ design }) => !JSON.stringify(design).includes('"me"'));
    expect(others.length).toBeGreaterThan(20);
    for (const { key, design } of others) {
      const snapshot = await frozen(director, id, { design, name: key });
      const [then, now] = [await shown(manager, snapshot), await answered(manager, design)];
      expect([key, figuresOf(then.answer)]).toEqual([key, figuresOf(now)]);
    }
  });

  it('names nothing that its reader does not see', async () => {
    const { id } = await folderOf(director, { sharing: 'everyone' });
    const design = { ...byOwner, question: { ...byOwner.question, groups: [{ field: 'account' }] } };
    const snapshot = await frozen(director, id, { design });
    const [all, theirs] = [await shown(director, snapshot), await shown(rep, snapshot)];
    const named = (answer: FrozenAnswer) => Object.keys(answer.answer?.names.account ?? {});
    expect(named(theirs).length).toBeGreaterThan(0);
    expect(named(theirs).length).toBeLessThan(named(all).length);
    const live = await answered(rep, design);
    expect(named(theirs)).toEqual(Object.keys(live.names.account ?? {}));
    const { body } = await rep
      .call('post', `/snapshots/${snapshot.id}/records`, { place: { keys: [] } })
      .expect(200);
    const names = (body as FrozenRecordsAnswer).names.account ?? {};
    const { body: seen } = await rep
      .call('post', '/questions/records', {
        question: { version: 1, object: 'account' },
        offset: 0,
        limit: 500,
      })
      .expect(200);
    const ids = new Set((seen as { rows: { id: number }[] }).rows.map((row) => row.id));
    expect(Object.keys(names).filter((account) => !ids.has(Number(account)))).toEqual([]);
  });

  it('is seen as a whole where it was taken for everyone, by those who may hand records out', async () => {
    const { id } = await folderOf(director, { sharing: 'everyone' });
    const snapshot = await frozen(director, id, { seenBy: 'whole' });
    expect((await shown(rep, snapshot)).answer).toEqual((await shown(director, snapshot)).answer);
    const asRep = { design: byOwner, name: 'All', folder: id, seenBy: 'whole' };
    const { body } = await rep.call('post', '/snapshots/freeze', asRep).expect(403);
    expect((body as { detail: string }).detail).toContain('hand out deals');
  });

  it('is changed by nobody, in nothing but its name and where it lies', async () => {
    const { id } = await folderOf(rep);
    const snapshot = await frozen(rep, id);
    for (const values of [{ takenAt: '2020-01-01T00:00:00.000Z' }, { records: 1 }, { seenBy: 'whole' }])
      await rep
        .call('patch', `/snapshots/${snapshot.id}`, values, { 'If-Match': `"${snapshot.version}"` })
        .expect(422);
    await rep
      .call('patch', `/snapshots/${snapshot.id}`, { name: 'Other' }, { 'If-Match': `"${snapshot.version}"` })
      .expect(200);
    const changed = server.app
      .get(Database)
      .writer.transaction((rows) => rows.update('frozen', { snapshot: snapshot.id }, { data: '[]' }));
    await expect(changed).rejects.toThrow('never changes');
    await rep.call('post', '/snapshots', { name: 'Empty', folder: id }).expect(422);
  });

  it('is deleted by whoever took it, comes back, and by nobody else', async () => {
    const { id } = await folderOf(director, { sharing: 'everyone' });
    const snapshot = await frozen(rep, id);
    const version = { 'If-Match': `"${snapshot.version}"` };
    await far.call('delete', `/snapshots/${snapshot.id}`, undefined, version).expect(403);
    const { body } = await rep.call('delete', `/snapshots/${snapshot.id}`, undefined, version).expect(200);
    await rep.call('get', `/snapshots/${snapshot.id}/frozen`).expect(404);
    await rep.call('post', `/units/${(body as Written<unknown>).unit}/undo`).expect(200);
    expect((await shown(rep, snapshot)).answer?.rows.length).toBeGreaterThan(1);
  });

  it('is not taken of what is gone, nor of more than it holds', async () => {
    const { id } = await folderOf(rep);
    const gone = { ...byOwner, question: { ...byOwner.question, groups: [{ field: 'x_gone' }] } };
    const body = { design: gone, name: 'Gone', folder: id, seenBy: 'each' };
    await rep.call('post', '/snapshots/freeze', body).expect(422);
    const gate = server.app.get(Gate);
    const tooMany = [
      jest.spyOn(gate, 'figuresByRecord').mockResolvedValue(undefined),
      jest.spyOn(gate, 'count').mockResolvedValue(200_000),
    ];
    const { body: refused } = await rep
      .call('post', '/snapshots/freeze', { ...body, design: byOwner })
      .expect(422);
    for (const each of tooMany) each.mockRestore();
    expect((refused as { detail: string }).detail).toContain('about 200,000 records');
    expect(await inFolder(rep, id)).toEqual([]);
  });
});

describe('snapshots side by side', () => {
  it('tell what came, went and changed behind a figure', async () => {
    const { id } = await folderOf(far);
    const design = { ...byOwner, question: { ...byOwner.question, groups: [] } };
    const first = await frozen(far, id, { design });
    const place = { keys: [], figure: 'value' };
    const { rows } = (await far.call('post', `/snapshots/${first.id}/records`, { place }).expect(200))
      .body as FrozenRecordsAnswer;
    const [one, two] = rows;
    const version = async (deal: number) => {
      const { body } = await far.call('get', `/deals/${deal}`).expect(200);
      return { 'If-Match': `"${(body as { record: { version: number } }).record.version}"` };
    };
    await far.call('patch', `/deals/${one.id}`, { value: 123_45 }, await version(one.id)).expect(200);
    await far.call('delete', `/deals/${two.id}`, undefined, await version(two.id)).expect(200);
    const { pipeline, stage } = (
      (await far.call('get', `/deals/${one.id}`)).body as { record: RecordOf<'deal'> }
    ).record;
    const values = { pipeline, stage, closeOn: '2026-12-18', owner: far.id, value: 500_00, currency: 'GBP' };
    const made = await far.call('post', '/deals', { name: 'Brand new', ...values }).expect(201);
    const added = (made.body as Written<{ id: number }>).value.id;
    const second = await frozen(far, id, { design });
    for (const other of [second.id, 'now']) {
      const compared = (await far.call('post', `/snapshots/${first.id}/compare`, { with: other }).expect(200))
        .body as CompareAnswer;
      expect(compared.isSameQuestion).toBe(true);
      expect(compared.was.answer?.rows[0].count).toBe(rows.length);
      expect(compared.is.answer?.rows[0].count).toBe(rows.length);
      const found = (
        await far.call('post', `/snapshots/${first.id}/differences`, { with: other, place }).expect(200)
      ).body as DifferencesAnswer;
      expect(found.came.map((each) => each.id)).toEqual([added]);
      expect(found.went.map((each) => [each.id, each.is])).toEqual([[two.id, null]]);
      expect(found.changed.map((each) => [each.id, each.is === each.was])).toEqual([[one.id, false]]);
    }
    const period = { field: 'createdAt', in: { unit: 'month' as const, offset: 0 } };
    const ofMonth = await frozen(far, id, { design: { ...design, period } });
    const sameDays = await far.call('post', `/snapshots/${ofMonth.id}/compare`, { with: 'now' }).expect(200);
    expect((sameDays.body as CompareAnswer).isSameQuestion).toBe(true);
    const unlike = await frozen(far, id);
    await far.call('post', `/snapshots/${first.id}/compare`, { with: unlike.id }).expect(422);
  });
});

describe('folders', () => {
  it('share what lies in them, also once that is changed', async () => {
    const folder = await folderOf(rep);
    const snapshot = await frozen(rep, folder.id);
    await far.call('get', `/snapshots/${snapshot.id}/frozen`).expect(404);
    const version = { 'If-Match': `"${folder.version}"` };
    await rep.call('patch', `/folders/${folder.id}`, { sharing: 'everyone' }, version).expect(200);
    await far.call('get', `/snapshots/${snapshot.id}/frozen`).expect(200);
    const other = await folderOf(rep);
    const { version: now } = (
      (await rep.call('get', `/snapshots/${snapshot.id}`)).body as { record: Snapshot }
    ).record;
    await rep
      .call('patch', `/snapshots/${snapshot.id}`, { folder: other.id }, { 'If-Match': `"${now}"` })
      .expect(200);
    await far.call('get', `/snapshots/${snapshot.id}/frozen`).expect(404);
  });

  it('lie in each other, in no circle, and are not deleted while they hold anything', async () => {
    const year = await folderOf(rep, { name: '2026' });
    const month = await folderOf(rep, { name: 'November', parent: year.id });
    const version = { 'If-Match': `"${year.version}"` };
    await rep.call('patch', `/folders/${year.id}`, { parent: month.id }, version).expect(422);
    const { body } = await rep.call('delete', `/folders/${year.id}`, undefined, version).expect(422);
    expect((body as { detail: string }).detail).toContain('still holds one thing');
    await rep
      .call('delete', `/folders/${month.id}`, undefined, { 'If-Match': `"${month.version}"` })
      .expect(200);
    await rep.call('delete', `/folders/${year.id}`, undefined, version).expect(200);
  });

  it('take nothing in from whom they are not shared with', async () => {
    const { id } = await folderOf(rep);
    const body = { design: byOwner, name: 'Mine', folder: id, seenBy: 'each' };
    await far.call('post', '/snapshots/freeze', body).expect(404);
  });
});

describe('a file of a snapshot', () => {
  it('holds the figures or the records as they were, for whoever may take them out', async () => {
    const { id } = await folderOf(manager, { sharing: 'everyone' });
    const snapshot = await frozen(manager, id);
    const file = (who: Caller, body: object) => who.call('post', `/snapshots/${snapshot.id}/file`, body);
    expect((await file(manager, { format: 'csv' }).expect(200)).text).toContain('Number of deals');
    const records = await file(manager, { format: 'csv', records: true }).expect(200);
    expect(records.text.split('\r\n').length).toBeGreaterThan((snapshot.records ?? 0) + 1);
    await file(manager, { format: 'pdf' }).expect(200);
    await file(manager, { format: 'xlsx' }).expect(200);
    await file(rep, { format: 'csv' }).expect(403);
  });

  it('puts two moments side by side: each figure then, later and its change, or only what differs', async () => {
    const { id } = await folderOf(manager, { sharing: 'everyone' });
    const snapshot = await frozen(manager, id);
    const { rows } = (
      await manager
        .call('post', `/snapshots/${snapshot.id}/records`, { place: { keys: [rep.id], figure: 'value' } })
        .expect(200)
    ).body as FrozenRecordsAnswer;
    const deal = (await manager.call('get', `/deals/${rows[0].id}`)).body as { record: RecordOf<'deal'> };
    const { version, value } = deal.record;
    await manager
      .call(
        'patch',
        `/deals/${rows[0].id}`,
        { value: Number(value) + 1000_00 },
        { 'If-Match': `"${version}"` },
      )
      .expect(200);
    const file = (who: Caller, body: object) =>
      who.call('post', `/snapshots/${snapshot.id}/compare/file`, { with: 'now', ...body });
    const lines = (csv: string) => Papa.parse<string[]>(csv.replace('\uFEFF', '').trim()).data;
    const [head, ...all] = lines((await file(manager, { format: 'csv' }).expect(200)).text);
    expect(head.slice(4, 7).map((heading) => heading.replace(/, .*?(change|now)?$/, ' $1'))).toEqual([
      'Sum of value ',
      'Sum of value now',
      'Sum of value change',
    ]);
    for (const [, , , , was, is, change] of all) expect(Number(is) - Number(was)).toBeCloseTo(Number(change));
    const different = lines(
      (await file(manager, { format: 'csv', isDifferent: true }).expect(200)).text,
    ).slice(1);
    const changed = all.filter(([, , , count, , , change]) => Number(count) || Number(change));
    expect(different.map(([name]) => name)).toEqual(changed.map(([name]) => name));
    expect(different.length).toBeLessThan(all.length);
    const { body } = await file(manager, { format: 'xlsx' }).buffer().parse(inBytes).expect(200);
    const book = new ExcelJS.Workbook();
    await book.xlsx.load(body as ExcelJS.Buffer);
    expect(book.getWorksheet('Figures')?.rowCount).toBe(all.length);
    await file(manager, { format: 'pdf' }).expect(200);
    await file(rep, { format: 'csv' }).expect(403);
    await file(manager, { format: 'odt' }).expect(422);
  });
});
