import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { create } from 'tar';
import { ask, type AnyRecord, type Backups, type Written } from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { dialect } from '../../platform/database/dialect';
import { closeDatabase, openDatabase } from '../../platform/database/data-source';
import { Caller, startServer, type TestServer } from '../../testing';
import { unpack } from './archive';
import { backUp } from './backup';
import { check } from './check';
import { restore } from './restore';

const AT = '2026-11-19T09:30:00.000Z';
let room: string;
let server: TestServer;
let rep: Caller;
let archive: string;

beforeAll(async () => {
  room = mkdtempSync(join(tmpdir(), 'zawn-safe-'));
  server = await startServer({ demo: true });
  rep = await Caller.signIn(server, 'tamsin.rudd');
  archive = join(room, 'kept', 'monday.tar.gz');
  const lead = await makeLead('Kept Safe');
  await rep
    .call('post', `/leads/${lead.id}/files?name=kept.txt`)
    .set('Content-Type', 'application/octet-stream')
    .send('to be kept')
    .expect(201);
  await backUp(server.folder, archive, AT);
});
afterAll(async () => {
  await server.close();
  rmSync(room, { recursive: true, force: true });
});

async function makeLead(name: string): Promise<AnyRecord> {
  const { body } = await rep.call('post', '/leads', { name, status: 'untouched', owner: rep.id }).expect(201);
  return (body as Written<AnyRecord>).value;
}

/** A server on a folder that was brought back. */
async function reopened<T>(folder: string, work: (caller: Caller) => Promise<T>): Promise<T> {
  const again = await startServer({ demo: false, folder });
  try {
    return await work(await Caller.signIn(again, 'tamsin.rudd'));
  } finally {
    await again.close();
  }
}
const leadsNamed = async (caller: Caller, name: string) =>
  (await caller.records(ask('lead', { field: 'name', is: 'startsWith', value: name }))).total;

const filesIn = (folder: string) =>
  readdirSync(join(folder, 'files'), { recursive: true, withFileTypes: true }).filter((entry) =>
    entry.isFile(),
  ).length;

let count = 0;
const folderFor = () => join(room, `folder${(count += 1)}`);

describe('a backup', () => {
  it('holds what was written before it, files included, and nothing of what came later', async () => {
    await makeLead('Too Late');
    const folder = folderFor();
    const { manifest, aside } = await restore(archive, folder, AT);
    expect(manifest).toMatchObject({
      format: 'zawn backup',
      organisation: 'Brackwater Instruments',
      files: filesIn(server.folder),
    });
    expect(aside).toBeNull();
    await reopened(folder, async (caller) => {
      expect(await leadsNamed(caller, 'Kept Safe')).toBe(1);
      expect(await leadsNamed(caller, 'Too Late')).toBe(0);
      const { rows } = await caller.records(ask('file', { field: 'name', is: 'is', value: 'kept.txt' }));
      const response = await caller.call('get', `/files/${rows[0].id}/content`).expect(200);
      expect(String(response.body)).toBe('to be kept');
    });
  });

  it('is whole while others write', async () => {
    let isDone = false;
    const writing = (async () => {
      let written = 0;
      for (; !isDone; written += 1) await makeLead(`Meanwhile ${written}`);
      return written;
    })();
    const busy = join(room, 'busy.tar.gz');
    await backUp(server.folder, busy, AT);
    isDone = true;
    const written = await writing;
    const folder = folderFor();
    await restore(busy, folder, AT);
    expect((await check(folder)).lines).toEqual([
      'Pages and indexes: all right',
      'Links: all right',
      'Change log against records: all right',
      'Search index: all right',
      'Ends of days: all right',
      'Files: all right',
    ]);
    const kept = await reopened(folder, (caller) => leadsNamed(caller, 'Meanwhile'));
    expect(kept).toBeLessThanOrEqual(written);
  });

  it('takes the place of no other, and leaves nothing behind when there is nothing to keep', async () => {
    const before = readFileSync(archive);
    await expect(backUp(server.folder, archive, AT)).rejects.toThrow(/is there already/);
    expect(readFileSync(archive).equals(before)).toBe(true);
    const empty = folderFor();
    mkdirSync(empty);
    await expect(backUp(empty, join(room, 'nothing.tar.gz'), AT)).rejects.toThrow(/no database/);
    expect(readdirSync(room).filter((name) => name.includes('nothing'))).toEqual([]);
  });
});

describe('a restore', () => {
  it('keeps what lay in the folder aside', async () => {
    const folder = folderFor();
    await restore(archive, folder, AT);
    writeFileSync(join(folder, 'mine.txt'), 'here before');
    const { aside } = await restore(archive, folder, AT);
    expect(aside).toBe(`${folder}.before-20261119-093000`);
    expect(readFileSync(join(String(aside), 'mine.txt'), 'utf8')).toBe('here before');
    const { aside: second } = await restore(archive, folder, AT);
    expect(second).toBe(`${folder}.before-20261119-093000-2`);
  });

  it('is refused while the folder is in use, and nothing is changed', async () => {
    await expect(restore(archive, server.folder, AT)).rejects.toThrow(/in use by Zawn already/);
    await rep.call('get', '/session').expect(200);
  });

  /** An archive of these texts by name. */
  const packed = async (parts: Record<string, string>): Promise<string> => {
    const from = folderFor();
    mkdirSync(from);
    for (const [name, text] of Object.entries(parts)) writeFileSync(join(from, name), text);
    const file = `${from}.tar.gz`;
    await create({ file, cwd: from, gzip: true }, Object.keys(parts));
    return file;
  };
  const manifest = (more: object) =>
    JSON.stringify({
      format: 'zawn backup',
      version: 1,
      madeBy: '9.9.9',
      database: { sha256: 'x' },
      ...more,
    });
  const spoilt = (change: (bytes: Buffer) => Buffer) => () => {
    const file = `${folderFor()}.tar.gz`;
    writeFileSync(file, change(readFileSync(archive)));
    return Promise.resolve(file);
  };

  it.each<[string, () => Promise<string>, RegExp]>([
    ['that is not there', () => Promise.resolve(join(room, 'gone.tar.gz')), /There is no file/],
    ['cut short', spoilt((bytes) => bytes.subarray(0, bytes.length / 2)), /damaged/],
    [
      'with a byte changed',
      spoilt((bytes) => {
        bytes[Math.floor(bytes.length / 2)] ^= 0xff;
        return bytes;
      }),
      /damaged/,
    ],
    ['that is a text', spoilt(() => Buffer.from('Dear all, this is no archive.')), /damaged or no backup/],
    [
      'of something else',
      () => packed({ 'holiday.txt': 'sun' }),
      /no backup of Zawn’s: it holds holiday\.txt/,
    ],
    ['that says nothing of itself', () => packed({ 'zawn.sqlite': 'x' }), /does not say what it is/],
    ['without a database', () => packed({ 'manifest.json': manifest({}) }), /database is missing/],
    [
      'with another database',
      () => packed({ 'manifest.json': manifest({}), 'zawn.sqlite': 'x' }),
      /not the one that was kept/,
    ],
    [
      'of a newer form',
      () => packed({ 'manifest.json': manifest({ version: 2 }), 'zawn.sqlite': 'x' }),
      /newer version of Zawn \(9\.9\.9\)/,
    ],
  ])('refuses an archive %s, and leaves the folder as it was', async (_, make, message) => {
    const folder = folderFor();
    mkdirSync(folder);
    writeFileSync(join(folder, 'mine.txt'), 'here before');
    const file = await make();
    await expect(restore(file, folder, AT)).rejects.toThrow(message);
    expect(readFileSync(join(folder, 'mine.txt'), 'utf8')).toBe('here before');
    expect(existsSync(`${folder}.restoring`)).toBe(false);
  });

  it('refuses a database made by a newer version', async () => {
    const folder = folderFor();
    await restore(archive, folder, AT);
    const connections = await openDatabase(folder);
    await connections.writing.manager
      .insert('migrations', { timestamp: 1, name: 'Tomorrow1' })
      .catch(() =>
        connections.writing.query(`INSERT INTO migrations(timestamp, name) VALUES (1, 'Tomorrow1')`),
      );
    await closeDatabase(connections);
    await expect(backUp(folder, join(room, 'newer.tar.gz'), AT)).rejects.toThrow(/newer version of Zawn/);
  });

  it('takes nothing out of an archive but what belongs in one', async () => {
    const from = folderFor();
    mkdirSync(from);
    writeFileSync(join(from, 'escaped.txt'), 'out');
    const inner = join(from, 'inner');
    mkdirSync(inner);
    const file = `${from}.tar`;
    await create({ file, cwd: inner, preservePaths: true }, ['../escaped.txt']);
    rmSync(join(from, 'escaped.txt'));
    await expect(unpack(file, join(from, 'unpacked'))).rejects.toThrow(/no backup|damaged/);
    expect(existsSync(join(from, 'escaped.txt'))).toBe(false);
  });
});

describe('a check', () => {
  it('makes the ends of days anew that are not as the log says', async () => {
    const folder = folderFor();
    await restore(archive, folder, AT);
    const connections = await openDatabase(folder);
    const all = () => connections.reading.query('SELECT * FROM "dealDayEnd" ORDER BY "deal", "from"');
    const before = (await all()) as { deal: number }[];
    await connections.writing.query('UPDATE "dealDayEnd" SET "value" = "value" + 1 WHERE "deal" = 3');
    await connections.writing.query('DELETE FROM "dealDayEnd" WHERE "deal" = 5');
    await closeDatabase(connections);
    expect((await check(folder)).lines).toContain(
      'Ends of days: 2 deals stood otherwise on some day, made anew from the log',
    );
    expect((await check(folder)).lines).toContain('Ends of days: all right');
    const mended = await openDatabase(folder);
    expect(await mended.reading.query('SELECT * FROM "dealDayEnd" ORDER BY "deal", "from"')).toEqual(before);
    await closeDatabase(mended);
  });

  it('makes a search index anew that is out of step, and removes files that nobody names', async () => {
    const folder = folderFor();
    await restore(archive, folder, AT);
    const connections = await openDatabase(folder);
    await connections.writing.query(dialect.fullText.remove, [8]);
    await closeDatabase(connections);
    const stray = 'ab'.repeat(32);
    mkdirSync(join(folder, 'files', 'ab'), { recursive: true });
    writeFileSync(join(folder, 'files', 'ab', stray), 'stray');
    const first = await check(folder);
    expect(first.isWhole).toBe(true);
    expect(first.lines).toContainEqual(expect.stringMatching(/^Search index: \d+ of \d+ .*made anew$/));
    expect(first.lines).toContain('Files that no record names: 1, removed');
    const second = await check(folder);
    expect(second.lines.filter((line) => !line.endsWith('all right'))).toEqual([]);
    await reopened(folder, async (caller) => {
      const { body } = await caller.call('get', '/search?q=Kept%20Safe').expect(200);
      expect(JSON.stringify(body)).toContain('Kept Safe');
    });
  });

  it('names what it cannot mend: a value that is not the one logged, a link that leads nowhere, a lost file', async () => {
    const folder = folderFor();
    await restore(archive, folder, AT);
    const connections = await openDatabase(folder);
    const { manager } = connections.writing;
    const change = await manager
      .createQueryBuilder<{ id: number; record: number }>('change', 'c')
      .where({ object: 'deal', kind: 'changed', field: 'stage' })
      .orderBy('c.id', 'DESC')
      .getOneOrFail();
    await manager.query('PRAGMA foreign_keys = OFF');
    await manager.update('deal', change.record, { name: 'Renamed behind the log', stage: 99_999 });
    await closeDatabase(connections);
    const lost = filesIn(folder);
    for (const name of readdirSync(join(folder, 'files')))
      rmSync(join(folder, 'files', name), { recursive: true });
    const { lines, isWhole } = await check(folder);
    expect(isWhole).toBe(false);
    expect(lines).toContainEqual(expect.stringMatching(/^Links: 1 in deal lead nowhere/));
    expect(lines).toContainEqual(
      expect.stringMatching(new RegExp(`^Change log against records: .*\\(deal ${change.record}, stage\\)`)),
    );
    expect(lines).toContain(`Files: ${lost} are not there`);
  });
});

describe('backups that are made by themselves', () => {
  it('are made each night and on demand, open, and as many as are wanted are kept', async () => {
    const folder = join(room, 'nightly');
    const config = { backups: { folder, keeps: 2 } };
    const own = await startServer({ demo: true, config });
    const operations = await Caller.signIn(own, 'bram.tideswell');
    const all = async () => (await operations.call('get', '/backups').expect(200)).body as Backups;
    const now = jest.spyOn(own.app.get(Clock), 'now');
    writeFileSync(join(folder, 'mine.tar.gz'), 'left alone');
    const [first] = (await all()).kept;
    expect(first.at).toBe(AT);
    for (const at of ['2026-11-20T01:00:00.000Z', '2026-11-21T01:00:00.000Z']) {
      now.mockReturnValue(at);
      const answers = await Promise.all([1, 2, 3].map(() => operations.call('post', '/backups')));
      expect(answers.map(({ status }) => status)).toEqual([200, 200, 200]);
    }
    now.mockRestore();
    expect((await all()).kept.map(({ at }) => at.slice(0, 10))).toEqual(['2026-11-21', '2026-11-20']);
    expect(readdirSync(folder).sort()).toEqual([
      'mine.tar.gz',
      'zawn-2026-11-20-010000.tar.gz',
      'zawn-2026-11-21-010000.tar.gz',
    ]);
    await restore(join(folder, 'zawn-2026-11-21-010000.tar.gz'), folderFor(), AT);
    await (await Caller.signIn(own, 'tamsin.rudd')).call('get', '/backups').expect(403);
    await own.close();
  });

  it('that do not come off are said, and keep nothing else from being done', async () => {
    const folder = join(room, 'taken');
    writeFileSync(folder, 'a file where the folder should be');
    const own = await startServer({
      demo: true,
      config: { backups: { folder: join(folder, 'in'), keeps: 2 } },
    });
    const operations = await Caller.signIn(own, 'bram.tideswell');
    const { body } = await operations.call('get', '/backups').expect(200);
    expect((body as Backups).failure).toMatch(/ENOTDIR|EEXIST|not a directory/i);
    await operations.call('post', '/backups').expect(409);
    await own.close();
  });

  it('need a folder', async () => {
    const operations = await Caller.signIn(server, 'bram.tideswell');
    const { body } = await operations.call('get', '/backups').expect(200);
    expect(body).toMatchObject({ folder: null, kept: [] });
    await operations.call('post', '/backups').expect(409);
  });
});
