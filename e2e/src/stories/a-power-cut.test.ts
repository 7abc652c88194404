import { send, signIn } from '../wire';
import { startZawn, type ZawnServer } from '../zawn-server';

const MOST = 1000;

type Headers = Record<string, string>;

/** The names on file that begin so. */
const namesOf = async (server: ZawnServer, headers: Headers, name: string) => {
  const question = { version: 1, object: 'lead', where: { field: 'name', is: 'startsWith', value: name } };
  const { body } = await send(server, 'POST', '/questions/records', { question, limit: MOST }, headers);
  return (body.rows as { name: string }[]).map((row) => row.name);
};

/** How many of them the log says were created. */
const loggedOf = async (server: ZawnServer, headers: Headers, name: string) => {
  const of = [
    { field: 'lead.name', is: 'startsWith', value: name },
    { field: 'kind', is: 'anyOf', value: ['created'] },
  ];
  const question = {
    version: 1,
    object: 'loggedChange',
    where: { join: 'all', of },
    measures: [{ as: 'count' }],
  };
  const { body } = await send(server, 'POST', '/questions/figures', { questions: [question] }, headers);
  return (body.answers as { rows: { figures: number[] }[] }[])[0].rows[0].figures[0];
};

/** The names that search finds by these words. */
const foundBy = async (server: ZawnServer, headers: Headers, words: string) => {
  const { body } = await send(server, 'GET', `/search?q=${encodeURIComponent(words)}`, undefined, headers);
  return (body.hits as { name: string }[]).map((hit) => hit.name);
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
        // Cut off in the midst of writing, after so many more were acknowledged.
        const enough = acknowledged.length + 9 + round * 7;
        let cut: () => void = () => undefined;
        const reached = new Promise<void>((resolve) => (cut = resolve));
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
            if (acknowledged.length >= enough) cut();
            if (!answer) isDown = true;
          }
        };
        const writers = [1, 2, 3].map(writeOn);
        await reached;
        await server.kill();
        await Promise.all(writers);
        server = await startZawn({ demo: true, folder });
        const again = await signIn(server);
        const kept = await namesOf(server, again.headers, 'Cut');
        expect(new Set(kept).size).toBe(kept.length);
        expect(acknowledged.filter((name) => !kept.includes(name))).toEqual([]);
        // What is on file is in the log and in the search index as well, and at most the three under way are more.
        expect(await loggedOf(server, again.headers, 'Cut')).toBe(kept.length);
        expect(kept.length - acknowledged.length).toBeLessThanOrEqual(3 * (round + 1));
        const last = acknowledged[acknowledged.length - 1];
        expect(await foundBy(server, again.headers, last)).toContain(last);
      }
      expect(acknowledged.length).toBeGreaterThanOrEqual(9 + 16 + 23 + 30);
    } finally {
      await server.stop();
    }
  });
});
