import { send, signIn } from '../wire';
import { startZawn, type ZawnServer } from '../zawn-server';

jest.setTimeout(180_000);

const ROWS = 50_000;

interface Import {
  id: number;
  state: string;
  failure: string | null;
  progress: { done: number; total: number } | null;
}

const file = [
  'Name,Mail,Town',
  ...Array.from({ length: ROWS }, (_, at) => `Cut Import ${at},cut${at}@import.example,Seagrave`),
].join('\n');

/** Hands the file in and begins to bring it in. */
async function begin(server: ZawnServer, headers: Record<string, string>): Promise<Import> {
  const raw = { ...headers, 'Content-Type': 'application/octet-stream' };
  const { body: look } = await send(server, 'POST', '/imports/files?name=cut.csv', file, raw);
  const { body } = await send(
    server,
    'POST',
    '/imports',
    { file: look.file, fileName: 'cut.csv', setup: look.setup },
    headers,
  );
  return body as unknown as Import;
}

const written = async (server: ZawnServer, headers: Record<string, string>) => {
  const where = { field: 'name', is: 'startsWith', value: 'Cut Import' };
  const question = { version: 1, object: 'lead', where };
  const { body } = await send(server, 'POST', '/questions/records', { question, limit: 1 }, headers);
  return Number(body.total);
};

const stateOf = async (server: ZawnServer, headers: Record<string, string>, id: number) =>
  (await send(server, 'GET', `/imports/${id}`, undefined, headers)).body as unknown as Import;

/** What its owner was told of an import. */
const toldOf = async (server: ZawnServer, headers: Record<string, string>, id: number) => {
  const { body } = await send(server, 'GET', '/notices', undefined, headers);
  const { rows } = body as unknown as { rows: { path: string; text: string }[] };
  return rows.filter(({ path }) => path === `/imports?run=${id}`).map(({ text }) => text);
};

/** Waits until an import has come so far. */
async function until(
  server: ZawnServer,
  headers: Record<string, string>,
  id: number,
  holds: (now: Import) => boolean,
): Promise<Import> {
  for (;;) {
    const now = await stateOf(server, headers, id);
    if (holds(now) || now.state !== 'running') return now;
  }
}

describe('a server killed in the middle of an import of 50,000 rows', () => {
  it('has written nothing of it, says so, and brings it in as a whole the next time', async () => {
    let server = await startZawn({ demo: true });
    const { folder } = server;
    try {
      const first = await signIn(server);
      const cut = await begin(server, first.headers);
      const now = await until(
        server,
        first.headers,
        cut.id,
        ({ progress }) => progress !== null && progress.done >= progress.total / 2,
      );
      expect(now.state).toBe('running');
      // Others see nothing of it while it goes on.
      expect(await written(server, first.headers)).toBe(0);
      await server.kill();
      server = await startZawn({ demo: true, folder });
      const again = await signIn(server);
      expect(await written(server, again.headers)).toBe(0);
      const ended = await stateOf(server, again.headers, cut.id);
      expect(ended.state).toBe('stopped');
      expect(ended.failure).toContain('Nothing of it is there');
      // Whoever began it is told, once.
      expect(await toldOf(server, again.headers, cut.id)).toEqual([
        expect.stringMatching(/was not imported\. Zawn was stopped/),
      ]);
      const { headers } = await signIn(server);
      const { id } = await begin(server, headers);
      const done = await until(server, headers, id, () => false);
      expect(done).toMatchObject({ state: 'done', failure: null });
      expect(await written(server, headers)).toBe(ROWS);
      await server.kill();
      server = await startZawn({ demo: true, folder });
      expect(await written(server, (await signIn(server)).headers)).toBe(ROWS);
    } finally {
      await server.stop();
    }
  });
});
