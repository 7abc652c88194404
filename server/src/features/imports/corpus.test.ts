import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  ask,
  type AnyRecord,
  type ImportCounts,
  type ImportLook,
  type ImportPreview,
  type ImportSetup,
  type ImportSummary,
  type ObjectKey,
  type ProblemBody,
  type TargetKey,
  type Written,
} from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';
import { Imports } from './imports';

/** What must come of a file of the corpus; what is left out must not be. */
interface Expected {
  /** What it is brought in as; leads when left out. */
  as?: TargetKey;
  /** What of the file has to be asked before anything is written. */
  asks?: string[];
  /** What somebody chooses who brings it in. */
  choose?: Partial<ImportSetup> & Partial<ImportSetup['reading']>;
  /** The records that come of it, those beside the main ones by their names, in the order of the rows. */
  create?: Record<string, unknown>[];
  /** Created although they may be on file. */
  maybe?: Record<string, unknown>[];
  update?: Record<string, unknown>[];
  /** By row, a word of the reason. */
  refuse?: Record<string, string>;
  /** Cells left empty: by row, a word of the reason. */
  notes?: Record<string, string>;
  /** Rows that are skipped. */
  skip?: number;
  /** Accounts that are probably another of nearly their name. */
  alike?: number;
  /** What is said of the file as a whole. */
  says?: string[];
  /** The whole file is refused, with these words. */
  unreadable?: string;
}

const FOLDER = join(__dirname, 'corpus');
const files = readdirSync(FOLDER).filter((name) => existsSync(join(FOLDER, `${name}.json`)));
const expectedOf = (name: string) =>
  JSON.parse(readFileSync(join(FOLDER, `${name}.json`), 'utf8')) as Expected;

/** A guess no surer than this is asked about. */
const ASKED = 0.6;
const NOTHING: ImportCounts = {
  create: 0,
  maybe: 0,
  update: 0,
  same: 0,
  skip: 0,
  refuse: 0,
  others: {},
  alike: 0,
  noted: 0,
};

let server: TestServer;
let operations: Caller;
let before: unknown;
const objects = ['lead', 'contact', 'account', 'deal', 'activity'] as const;

beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
  const make = async (path: string, values: object) =>
    ((await operations.call('post', path, values).expect(201)).body as Written<AnyRecord>).value;
  const { id: account, owner } = await make('/accounts', {
    name: 'Fjordlys',
    domain: 'fjordlys.example',
    owner: operations.session.me.id,
  });
  for (const name of ['Runa', 'Odd']) {
    const email = `${name.toLowerCase()}@fjordlys.example`;
    await make('/contacts', { name: `${name} Kaiser`, email, account, owner, role: 'Pilot' });
  }
  before = await everything();
});
afterAll(() => server.close());

/** All records of all objects, but for when and how often they were written. */
async function everything() {
  const all: Record<string, unknown> = {};
  for (const object of objects) {
    const { rows, total } = await operations.records({ ...ask(object), sort: [{ field: 'id' }] });
    all[object] = [total, rows.map(({ version: _, updatedAt: __, ...record }) => record)];
  }
  return all;
}

async function look(content: Buffer, name: string, as: TargetKey): Promise<ImportLook> {
  const { body } = await operations
    .call('post', `/imports/files?name=${encodeURIComponent(name)}&as=${as}`)
    .set('Content-Type', 'application/octet-stream')
    .send(content)
    .expect(201);
  return body as ImportLook;
}

async function preview(file: string, setup: ImportSetup): Promise<ImportPreview> {
  return (await operations.call('post', '/imports/preview', { file, setup }).expect(200))
    .body as ImportPreview;
}

/** The setup of a file with what somebody chooses; another way of reading it is looked at again. */
async function chosen(seen: ImportLook, choose: Expected['choose'] = {}): Promise<[ImportLook, ImportSetup]> {
  const { encoding, sheet, split, ...change } = choose;
  const reading = { ...(encoding && { encoding }), ...(sheet && { sheet }), ...(split && { split }) };
  if (Object.keys(reading).length === 0) return [seen, { ...seen.setup, ...change }];
  const { file, fileName, target } = seen;
  const again = await operations
    .call('post', '/imports/look', { file, fileName, target, reading })
    .expect(200);
  const look = again.body as ImportLook;
  return [look, { ...look.setup, ...change }];
}

function asked({ guess, table }: ImportLook): string[] {
  const { dates, decimal, names } = guess;
  const guesses = {
    dates,
    decimal,
    names,
    encoding: table.format === 'delimited' ? table.encoding : undefined,
  };
  return Object.entries(guesses).flatMap(([key, each]) => (each && each.sure <= ASKED ? key : []));
}

/** The records on a list, in the order in which they were made, with what they link to by name. */
async function recordsOn(list: string, object: ObjectKey): Promise<Record<string, unknown>[]> {
  const { rows: lists } = await operations.records(ask('list', { field: 'name', is: 'is', value: list }));
  if (lists.length === 0) return [];
  const question = {
    ...ask(object, { field: 'lists', is: 'anyOf' as const, value: [lists[0].id] }),
    sort: [{ field: 'id' }],
  };
  const { rows } = await operations.records(question);
  return Promise.all(
    rows.map(async (row) => {
      const [account, owner] = await Promise.all([
        nameOf('account', row.account),
        nameOf('person', row.owner),
      ]);
      return { ...row, account, owner };
    }),
  );
}

async function nameOf(object: ObjectKey, id: unknown): Promise<string | undefined> {
  if (typeof id !== 'number') return undefined;
  const { rows } = await operations.records(ask(object, { field: 'id', is: 'is', value: id }));
  return rows.length > 0 ? String(rows[0].name) : undefined;
}

/** What importing the records of a list again would do, as they were exported. */
async function exportedAgain(list: string, object: TargetKey) {
  const { rows: lists } = await operations.records(ask('list', { field: 'name', is: 'is', value: list }));
  const question = {
    ...ask(object, { field: 'lists', is: 'anyOf' as const, value: [lists[0].id] }),
    columns: ['name'],
  };
  const design = { draw: 'table', question };
  const { text } = await operations
    .call('post', '/exports', { design, format: 'csv', fields: 'all' })
    .expect(200);
  const { file, setup } = await look(Buffer.from(text), 'again.csv', object);
  const { counts, refused, notes } = await preview(file, setup);
  return { counts, refused, notes };
}

const reasons = (some: readonly { row: number; reason: string }[], wanted: Record<string, string> = {}) =>
  Object.fromEntries(
    some.map(({ row, reason }) => [row, reason.includes(wanted[row] ?? '\0') ? wanted[row] : reason]),
  );

describe('files as teams keep them', () => {
  it.each(files)('%s', async (name) => {
    const expected = expectedOf(name);
    const {
      as = 'lead',
      create = [],
      maybe = [],
      update = [],
      refuse = {},
      notes = {},
      says = [],
    } = expected;
    const content = readFileSync(join(FOLDER, name));
    if (expected.unreadable !== undefined) {
      const { body } = await operations
        .call('post', `/imports/files?name=${name}&as=${as}`)
        .set('Content-Type', 'application/octet-stream')
        .send(content)
        .expect(422);
      expect((body as ProblemBody).detail).toContain(expected.unreadable);
      return;
    }
    const first = await look(content, name, as);
    const isReread = expected.choose?.encoding !== undefined;
    expect(asked(first).filter((doubt) => !(isReread && doubt === 'encoding'))).toEqual(expected.asks ?? []);
    const [seen, setup] = await chosen(first, expected.choose);
    for (const words of says) expect(seen.table.notes.join('\n')).toContain(words);
    if (says.length === 0) expect(seen.table.notes).toEqual([]);

    const before = await preview(seen.file, setup);
    const refusedRows = before.refused.map(({ row, reason }) => ({ row, reason }));
    expect({ refused: reasons(refusedRows, refuse), notes: reasons(before.notes, notes) }).toEqual({
      refused: refuse,
      notes,
    });
    expect(before.counts).toMatchObject({
      create: create.length,
      maybe: maybe.length,
      update: update.length,
      same: 0,
      skip: expected.skip ?? 0,
      refuse: Object.keys(refuse).length,
      alike: expected.alike ?? 0,
    });
    const all = [...create, ...maybe, ...update];
    if (all.length === 0) return;

    const run = { file: seen.file, fileName: name, setup: { ...setup, list: { name } } };
    const { body } = await operations.call('post', '/imports', run).expect(201);
    const { id } = body as ImportSummary;
    await server.app.get(Imports).settled(id);
    const done = (await operations.call('get', `/imports/${id}`).expect(200)).body as ImportSummary;
    expect([done.state, done.counts]).toEqual(['done', before.counts]);
    const records = await recordsOn(name, as);
    expect(records).toHaveLength(all.length);
    for (const each of all) expect(records).toContainEqual(expect.objectContaining(each));
    const again = await exportedAgain(name, as);
    expect(again).toEqual({ counts: { ...NOTHING, same: all.length }, refused: [], notes: [] });

    await operations.call('post', `/units/${done.unit}/undo`).expect(200);
    expect((await preview(seen.file, setup)).counts).toEqual(before.counts);
  });

  it('leave nothing behind once all of them are undone', async () => {
    expect(await everything()).toEqual(before);
  });
});
