import { request } from 'node:http';
import { startZawn, type ZawnServer } from '../zawn-server';

jest.setTimeout(90_000);

const FILE_ROWS = 1000;

interface Answer {
  status: number;
  cookie: string;
  body: Record<string, unknown>;
}

/** One request; rejects when the connection breaks before the whole answer has come. */
function send(
  server: ZawnServer,
  method: string,
  path: string,
  body?: object,
  headers: Record<string, string> = {},
): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const call = request(
      `${server.address}/api/v1${path}`,
      { method, headers: { 'Content-Type': 'application/json', ...headers } },
      (response) => {
        let text = '';
        response.on('data', (chunk: Buffer) => (text += chunk.toString()));
        response.on('error', reject);
        response.on('end', () => {
          if (!response.complete) reject(new Error('cut short'));
          else
            resolve({
              status: response.statusCode ?? 0,
              cookie: (response.headers['set-cookie']?.[0] ?? '').split(';')[0],
              body: JSON.parse(text || '{}') as Record<string, unknown>,
            });
        });
      },
    );
    call.on('error', reject);
    call.end(body && JSON.stringify(body));
  });
}

async function signIn(server: ZawnServer) {
  const { cookie, body } = await send(server, 'POST', '/session', {
    email: 'tamsin.rudd@brackwater.example',
    password: 'brackwater',
  });
  return {
    headers: { Cookie: cookie, 'X-CSRF-Token': String(body.csrf) },
    me: (body.me as { id: number }).id,
  };
}

const countOf = async (server: ZawnServer, headers: Record<string, string>, name: string) => {
  const question = { version: 1, object: 'lead', where: { field: 'name', is: 'startsWith', value: name } };
  const { body } = await send(server, 'POST', '/questions/records', { question, limit: FILE_ROWS }, headers);
  return (body.rows as { name: string }[]).map((row) => row.name);
};

describe('a server killed in the middle of writes', () => {
  it('has lost nothing that it acknowledged, and nothing is half done', async () => {
    let server = await startZawn({ demo: true });
    const { folder } = server;
    try {
      const acknowledged: string[] = [];
      for (let round = 0; round < 4; round += 1) {
        const { headers, me } = await signIn(server);
        const rows = Array.from({ length: FILE_ROWS }, (_, index) => `Bulk ${round} ${index}`);
        let isDown = false;
        const writeOn = async (writer: number) => {
          for (let count = 0; !isDown; count += 1) {
            const name = `Cut ${round} ${writer} ${count}`;
            const answer = await send(
              server,
              'POST',
              '/leads',
              { name, status: 'untouched', owner: me },
              headers,
            ).catch(() => undefined);
            if (answer?.status === 201) acknowledged.push(name);
            if (!answer) isDown = true;
          }
        };
        const file = { fileName: 'bulk.csv', text: ['Name', ...rows].join('\n'), owner: me };
        // Single writes have two rounds to themselves; in the others an import is cut short as well.
        const bulk =
          round < 2
            ? Promise.resolve(false)
            : send(server, 'POST', '/imports', file, headers).then(
                ({ status }) => status === 201,
                () => false,
              );
        const writers = [1, 2, 3].map(writeOn);
        await new Promise((resolve) => setTimeout(resolve, 250 + round * 150));
        await server.kill();
        await Promise.all(writers);
        const wasImported = await bulk;
        server = await startZawn({ demo: true, folder });
        const again = await signIn(server);
        const kept = new Set(await countOf(server, again.headers, 'Cut'));
        expect(acknowledged.filter((name) => !kept.has(name))).toEqual([]);
        const imported = (await countOf(server, again.headers, `Bulk ${round}`)).length;
        // All of the file or none of it; what was acknowledged is all of it.
        expect(imported === 0 || imported === FILE_ROWS).toBe(true);
        if (wasImported) expect(imported).toBe(FILE_ROWS);
      }
      expect(acknowledged.length).toBeGreaterThan(20);
    } finally {
      await server.stop();
    }
  });
});
