import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import request from 'supertest';
import { type DataSource } from 'typeorm';
import { Caller, startServer, type TestServer } from '../../testing';
import { Database } from './database';

// What is refused on purpose need not be read in the output of the tests.
process.env.LOG_LEVEL = 'silent';

const lead = (name: string, owner: number) => ({
  name,
  status: 'untouched',
  owner,
  interest: 'Gauges for every quay. '.repeat(8),
});

/** A small disk of its own in memory; undefined where this machine does not allow one. */
function smallDisk(megabytes: number): { folder: string; remove: () => void } | undefined {
  const folder = mkdtempSync(join(tmpdir(), 'zawn-disk-'));
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${megabytes}m`, 'tmpfs', folder], { stdio: 'ignore' });
  } catch {
    rmSync(folder, { recursive: true });
    return undefined;
  }
  return {
    folder,
    remove: () => {
      execFileSync('umount', [folder]);
      rmSync(folder, { recursive: true });
    },
  };
}

/** Creates so many leads, fewer where twenty were refused; returns the names of those that were acknowledged. */
async function createMany(caller: Caller, many: number, prefix: string) {
  const kept: string[] = [];
  const refused: { status: number; type: string }[] = [];
  for (let index = 0; index < many && refused.length < 20; index += 1) {
    const name = `${prefix} ${index}`;
    const { status, body } = await caller.call('post', '/leads', lead(name, caller.id));
    if (status === 201) kept.push(name);
    else refused.push({ status, type: (body as { type: string }).type });
  }
  return { kept, refused };
}

async function namesOnFile(caller: Caller, prefix: string): Promise<string[]> {
  const { rows } = await caller.records({
    version: 1,
    object: 'lead',
    where: { field: 'name', is: 'startsWith', value: prefix },
  });
  return rows.map(({ name }) => String(name)).sort();
}

const health = (server: TestServer) => request(server.app.getHttpServer()).get('/api/health');

describe('a full disk', () => {
  /** What is measured on both: nothing acknowledged is lost, what is refused says why, and all goes on afterwards. */
  async function fillAndFree(server: TestServer, fill: () => void, free: () => Promise<void>) {
    const rep = await Caller.signIn(server, 'tamsin.rudd');
    fill();
    const full = await createMany(rep, 700, 'Brimful');
    expect(full.refused.length).toBeGreaterThan(0);
    for (const { status, type } of full.refused)
      expect([status, type]).toEqual([507, '/problems/storage-full']);
    expect(await namesOnFile(rep, 'Brimful')).toEqual([...full.kept].sort());
    await free();
    await health(server).expect(200);
    const after = await createMany(rep, 20, 'Drained');
    expect(after.refused).toEqual([]);
    expect(await namesOnFile(rep, 'Drained')).toEqual([...after.kept].sort());
    await Caller.signIn(server, 'maren.ollerby');
    // What was acknowledged is in the file, not only in what this process believes.
    expect(await namesOnFile(rep, 'Brimful')).toEqual([...full.kept].sort());
  }

  const disk = smallDisk(160);
  afterAll(() => disk?.remove());
  (disk ? it : it.skip)('loses nothing that was acknowledged, and goes on when there is room', async () => {
    const { folder } = disk as NonNullable<typeof disk>;
    const server = await startServer({ demo: true, folder: join(folder, 'data') });
    const ballast = join(folder, 'ballast');
    const fill = () => {
      const { bavail, bsize } = statfsSync(folder);
      writeFileSync(ballast, Buffer.alloc(bavail * bsize));
    };
    await fillAndFree(server, fill, async () => {
      await health(server).expect(503, /"writing":false/);
      rmSync(ballast);
    });
    await server.close();
  });

  it('is told the same way when the engine itself finds no more room', async () => {
    const server = await startServer({ demo: true });
    const { writer, reading } = server.app.get(Database);
    let writing: DataSource | undefined;
    await writer.transaction((manager) => {
      writing = manager.connection;
      return Promise.resolve();
    });
    const pragma = (text: string) => writer.lend(async () => void (await writing?.query(text)));
    const [{ page_count: pages }] = await reading.query<[{ page_count: number }]>('PRAGMA page_count');
    await fillAndFree(
      server,
      () => void pragma(`PRAGMA max_page_count = ${pages}`),
      async () => void (await pragma('PRAGMA max_page_count = 1000000000')),
    );
    await server.close();
  });
});

describe('writes that wait at the same time', () => {
  it('share a commit, and each is kept or refused for itself', async () => {
    const server = await startServer({ demo: true });
    const rep = await Caller.signIn(server, 'tamsin.rudd');
    const bodies = Array.from({ length: 50 }, (_, index) =>
      index % 5 === 4 ? { name: '' } : lead(`Together ${index}`, rep.id),
    );
    const answers = await Promise.all(bodies.map((body) => rep.call('post', '/leads', body)));
    expect(answers.map(({ status }) => status)).toEqual(bodies.map(({ name }) => (name === '' ? 422 : 201)));
    expect(await namesOnFile(rep, 'Together')).toHaveLength(40);
    await server.close();
  });

  it('are all refused when the engine takes the transaction back, and the next is kept', async () => {
    const server = await startServer({ demo: true });
    const { writer, reading } = server.app.get(Database);
    const put = (name: string) =>
      writer.transaction((manager) => manager.insert('secret', { name, value: 'kept' }));
    const broken = () =>
      writer.transaction(async (manager) => {
        await manager.insert('secret', { name: 'broken', value: 'not kept' });
        // As the engine does by itself when it cannot go on.
        await manager.query('ROLLBACK');
      });
    const outcomes = await Promise.allSettled([put('before'), broken(), put('after')]);
    expect(outcomes.map(({ status }) => status)).toEqual(['rejected', 'rejected', 'fulfilled']);
    const rows = await reading.getRepository<{ name: string }>('secret').find();
    const names = rows.map(({ name }) => name);
    expect(names).toContain('after');
    expect(names).not.toContain('before');
    expect(names).not.toContain('broken');
    await server.close();
  });

  it('goes on after the connection was lost and could not be opened at once', async () => {
    const server = await startServer({ demo: true });
    const { writer, reading } = server.app.get(Database);
    const put = (name: string) =>
      writer.transaction((manager) => manager.insert('secret', { name, value: 'kept' }));
    const cut = writer.transaction(async ({ connection }) => {
      jest.spyOn(connection, 'initialize').mockRejectedValueOnce(new Error('not now'));
      await connection.destroy();
      throw new Error('cut off');
    });
    await expect(cut).rejects.toThrow();
    await expect(put('still closed')).rejects.toThrow();
    await put('open again');
    const rows = await reading.getRepository<{ name: string }>('secret').find();
    expect(rows.map(({ name }) => name)).toContain('open again');
    expect(rows.map(({ name }) => name)).not.toContain('still closed');
    await server.close();
  });
});
