import { send, signIn } from '../wire';
import { startZawn, type ZawnServer } from '../zawn-server';

jest.setTimeout(90_000);

const MOST = 1000;

const countOf = async (server: ZawnServer, headers: Record<string, string>, name: string) => {
  const question = { version: 1, object: 'lead', where: { field: 'name', is: 'startsWith', value: name } };
  const { body } = await send(server, 'POST', '/questions/records', { question, limit: MOST }, headers);
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
        const writers = [1, 2, 3].map(writeOn);
        await new Promise((resolve) => setTimeout(resolve, 250 + round * 150));
        await server.kill();
        await Promise.all(writers);
        server = await startZawn({ demo: true, folder });
        const again = await signIn(server);
        const kept = new Set(await countOf(server, again.headers, 'Cut'));
        expect(acknowledged.filter((name) => !kept.has(name))).toEqual([]);
      }
      expect(acknowledged.length).toBeGreaterThan(20);
    } finally {
      await server.stop();
    }
  });
});
