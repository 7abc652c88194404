import { createServer as createHttpServer } from 'node:http';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { type AddressInfo } from 'node:net';
import BetterSqlite from 'better-sqlite3';
import request from 'supertest';
import { readConfig, StartError } from './config';
import { listen } from '../../server';
import { startServer } from '../../testing';

const folder = mkdtempSync(join(tmpdir(), 'zawn-config-'));
const inTheWay = join(folder, 'file');
writeFileSync(inTheWay, '');

describe('starting', () => {
  it('takes port, data folder and day from the environment', () => {
    const config = readConfig({ ZAWN_DATA: join(folder, 'new'), ZAWN_TODAY: '2026-11-19' });
    expect(config).toEqual({
      port: 4620,
      address: 'http://localhost:4620',
      dataFolder: join(folder, 'new'),
      today: '2026-11-19',
      demo: false,
      durability: 'full',
      reading: 'pooled',
      phoneCallsBack: 25,
    });
  });

  it('says what is wrong with how the phone stand-in is to behave', () => {
    const of = (env: object) => () => readConfig({ ZAWN_DATA: folder, ...env });
    for (const [name, values] of [
      ['ZAWN_PHONE_PACE', ['0', '2000', 'fast']],
      ['ZAWN_PHONE_CALLS_BACK', ['-1', '101', 'often']],
    ] as const)
      for (const value of values) expect(of({ [name]: value })).toThrow(`${name} is “${value}”`);
    expect(of({ ZAWN_PHONE_CALLS_BACK: '0' })().phoneCallsBack).toBe(0);
  });

  it.each([
    [{ ZAWN_ADDRESS: 'zawn.example' }, 'ZAWN_ADDRESS must be where people open Zawn'],
    [{ PORT: 'harbour' }, 'PORT is “harbour”; it must be a number from 1 to 65535.'],
    [{ ZAWN_TODAY: '2026-02-30' }, 'ZAWN_TODAY is “2026-02-30”; it must be a real date as YYYY-MM-DD'],
    [{ ZAWN_TODAY: '2026-02-20T25:00:00Z' }, 'or an instant such as 2026-11-19T09:30:00Z.'],
    [{ ZAWN_TODAY: '2026-02-30T10:00:00Z' }, 'or an instant such as 2026-11-19T09:30:00Z.'],
    [
      { ZAWN_DATA: join(inTheWay, 'data') },
      `The data folder ${join(inTheWay, 'data')} cannot be written to.`,
    ],
    [{ ZAWN_DATA: inTheWay }, `${inTheWay} is a file; the data folder is to be there.`],
    [{ ZAWN_DURABILITY: 'some' }, 'ZAWN_DURABILITY is “some”; it must be full or fast.'],
    [{ ZAWN_DATA: '/proc/zawn' }, 'The data folder /proc/zawn cannot be written to.'],
  ])('ends with one clear line for %j', (env, line) => {
    const read = () => readConfig({ ZAWN_DATA: folder, ...env });
    expect(read).toThrow(StartError);
    expect(read).toThrow(line);
  });

  it('says when its port is taken', async () => {
    const other = createHttpServer().listen(0, '127.0.0.1');
    await new Promise((resolve) => other.once('listening', resolve));
    const { port } = other.address() as AddressInfo;
    const { app, close } = await startServer({ demo: false });
    await new Promise((resolve) => app.getHttpServer().close(resolve));
    await expect(listen(app, port)).rejects.toThrow(`Port ${port} is taken.`);
    await close();
    other.close();
  });

  it('tells that it is well', async () => {
    const { app, close } = await startServer({ demo: false });
    const { body } = await request(app.getHttpServer()).get('/api/health').expect(200);
    expect(body).toEqual({ status: 'ok', reading: true, writing: true, clock: 'right', version: '0.1.0' });
    await close();
  });

  describe('with a data folder', () => {
    const started = (fill: (into: string) => void) => {
      const into = mkdtempSync(join(tmpdir(), 'zawn-config-'));
      fill(into);
      return startServer({ demo: false, folder: into });
    };
    const sqlite = (into: string) => join(into, 'zawn.sqlite');

    it('that another server uses, ends with a line naming it, and does not touch what that one does', async () => {
      const { app, folder: held, close } = await startServer({ demo: false });
      await expect(startServer({ demo: false, folder: held })).rejects.toThrow(StartError);
      await expect(startServer({ demo: false, folder: held })).rejects.toThrow(
        `is in use by Zawn already (server on port 0, process ${process.pid}`,
      );
      await request(app.getHttpServer()).get('/api/health').expect(200);
      await close();
    });

    it('given back, can be used by the next', async () => {
      const again = mkdtempSync(join(tmpdir(), 'zawn-config-'));
      const first = await startServer({ demo: false, folder: again });
      await first.app.close();
      await (await startServer({ demo: false, folder: again })).close();
    });

    it.each<[string, (into: string) => void, string]>([
      [
        'that holds no database',
        (into) => writeFileSync(sqlite(into), 'Dear diary, '.repeat(900)),
        'is no database',
      ],
      [
        'where a folder is in the way',
        (into) => mkdirSync(sqlite(into)),
        'is a folder; the database is to be there',
      ],
      [
        'of another program',
        (into) => new BetterSqlite(sqlite(into)).exec('CREATE TABLE recipe (name TEXT)').close(),
        'is a database of another program',
      ],
      [
        'of a newer version',
        (into) =>
          new BetterSqlite(sqlite(into))
            .exec(
              `CREATE TABLE migrations (id INTEGER, timestamp INTEGER, name TEXT);
               INSERT INTO migrations VALUES (1, 1, 'Foundation1763856000000'), (2, 2, 'Tomorrow9999999999999')`,
            )
            .close(),
        'was made by a newer version of Zawn (Tomorrow9999999999999)',
      ],
    ])('%s, ends with one clear line', async (_, fill, line) => {
      const starting = started(fill);
      await expect(starting).rejects.toThrow(StartError);
      await expect(starting).rejects.toThrow(line);
    });

    it.each<[string, (bytes: Buffer) => Buffer]>([
      ['was cut off', (bytes) => bytes.subarray(0, Math.floor(bytes.length / 2))],
      ['was overwritten in its midst', (bytes) => bytes.fill(0xa5, 8192, bytes.length - 8192)],
      ['lost its first page', (bytes) => bytes.fill(0, 100, 4096)],
    ])('whose database %s, ends with one clear line and leaves it as it is', async (_, damage) => {
      const into = mkdtempSync(join(tmpdir(), 'zawn-config-'));
      await (await startServer({ demo: true, folder: into })).app.close();
      const left = damage(readFileSync(sqlite(into)));
      writeFileSync(sqlite(into), left);
      await expect(startServer({ demo: false, folder: into })).rejects.toThrow(StartError);
      await expect(startServer({ demo: false, folder: into })).rejects.toThrow('is damaged');
      expect(readFileSync(sqlite(into)).equals(left)).toBe(true);
    });

    it('removes what a stop left of files that had not come in whole', async () => {
      const { folder: into, app } = await startServer({ demo: false });
      await app.close();
      const halves = ['files', 'imports'].map((part) => join(into, part, 'half.part'));
      for (const half of halves) {
        mkdirSync(dirname(half), { recursive: true });
        writeFileSync(half, 'half');
      }
      const { close } = await startServer({ demo: false, folder: into });
      expect(halves.filter((half) => existsSync(half))).toEqual([]);
      await close();
    });
  });
});
