import { createConnection } from 'node:net';
import { send, signIn } from '../wire';
import { startZawn, type ZawnServer } from '../zawn-server';

jest.setTimeout(120_000);

/** How soon others must be answered, whatever somebody else is up to. */
const SOON_MS = 2000;

let server: ZawnServer;
beforeAll(async () => {
  server = await startZawn({ demo: true });
});
afterAll(() => server.stop());

/** Asks for health all the while some work goes on; returns the slowest answer in milliseconds. */
async function slowestBeside(work: Promise<unknown>): Promise<number> {
  let slowest = 0;
  let isOver = false;
  void work.finally(() => {
    isOver = true;
  });
  do {
    const began = performance.now();
    const { status } = await fetch(`${server.address}/api/health`);
    expect(status).toBe(200);
    slowest = Math.max(slowest, performance.now() - began);
    await new Promise((resolve) => setTimeout(resolve, 50));
  } while (!isOver);
  return slowest;
}

/** A condition on related records of related records, each looked at for each of the others. */
const nested = (depth: number): object => ({
  related: 'activity.owner',
  via: 'owner',
  is: 'isNot',
  value: 1,
  ...(depth > 1 ? { where: nested(depth - 1) } : {}),
});
const ask = (headers: Record<string, string>, where: object, signal?: AbortSignal) =>
  fetch(`${server.address}/api/v1/questions/records`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json', ...headers },
    body: JSON.stringify({ question: { version: 1, object: 'account', where }, limit: 5 }),
    signal,
  });

/** Hands a message in over SMTP. */
function deliver(port: number, message: string): Promise<string> {
  return new Promise((resolve, reject) => {
    const socket = createConnection({ port, host: '127.0.0.1' });
    const lines = [
      'EHLO a.example',
      'MAIL FROM:<a@a.example>',
      'RCPT TO:<hello@brackwater.example>',
      'DATA',
      `${message}\r\n.`,
      'QUIT',
    ];
    let said = '';
    socket.on('data', (chunk: Buffer) => {
      said += chunk.toString();
      if (!/^\d{3} .*\r\n$/m.test(said.slice(said.lastIndexOf('\r\n', said.length - 3) + 1))) return;
      const next = lines.shift();
      if (next !== undefined) socket.write(`${next}\r\n`);
    });
    socket.on('end', () => resolve(said));
    socket.on('error', reject);
  });
}

describe('whatever one person sends', () => {
  it('a question four deep is refused at once, and says why', async () => {
    const { headers } = await signIn(server);
    const began = performance.now();
    const answer = await ask(headers, nested(4));
    expect([answer.status, await answer.text()]).toEqual([
      422,
      expect.stringContaining('nest at most 3 deep'),
    ]);
    expect(performance.now() - began).toBeLessThan(1000);
  });

  it('questions that would take minutes end in time, and hold up neither lists nor search nor health', async () => {
    const attacker = await signIn(server);
    const other = await signIn(server, 'maren.ollerby@brackwater.example');
    const attack = Promise.all([1, 2, 3, 4].map(() => ask(attacker.headers, nested(3))));
    const others = (async () => {
      for (let round = 0; round < 5; round += 1) {
        const began = performance.now();
        const question = { version: 1, object: 'lead', sort: [{ field: 'name' }] };
        const { status } = await send(
          server,
          'POST',
          '/questions/records',
          { question, limit: 50 },
          other.headers,
        );
        const found = await send(server, 'GET', '/search?q=harbour', undefined, other.headers);
        expect([status, found.status]).toEqual([200, 200]);
        expect(performance.now() - began).toBeLessThan(SOON_MS);
      }
    })();
    expect(await slowestBeside(Promise.all([attack, others]))).toBeLessThan(SOON_MS);
    for (const answer of await attack) {
      expect(answer.status).toBe(422);
      expect(await answer.json()).toMatchObject({ type: '/problems/too-costly' });
    }
  });

  it('a question whose asker has gone is called off', async () => {
    const { headers } = await signIn(server);
    for (let round = 0; round < 4; round += 1) {
      const gone = new AbortController();
      const asking = ask(headers, nested(3), gone.signal).catch(() => undefined);
      await new Promise((resolve) => setTimeout(resolve, 200));
      gone.abort();
      await asking;
    }
    // The person's own share of the threads is free again long before the time was up.
    const began = performance.now();
    expect((await ask(headers, { field: 'name', is: 'contains', value: 'a' })).status).toBe(200);
    expect(performance.now() - began).toBeLessThan(SOON_MS);
  });

  it('an email of nested markup holds up nobody, and comes in', async () => {
    const html = '<div>'.repeat(200_000);
    const message = [
      'From: Nest <nest@a.example>',
      'Subject: Nest',
      'Message-ID: <nest@a.example>',
      'Content-Type: text/html',
      '',
      html.replace(/(.{900})/g, '$1\r\n'),
    ].join('\r\n');
    const delivering = deliver(server.mailPort, message);
    expect(await slowestBeside(delivering)).toBeLessThan(SOON_MS);
    expect(await delivering).toContain('250');
  });

  it('does not keep the server from stopping within five seconds', async () => {
    const { headers } = await signIn(server);
    void Promise.all([1, 2].map(() => ask(headers, nested(3)).catch(() => undefined)));
    void fetch(`${server.address}/api/v1/events`, { headers }).catch(() => undefined);
    await new Promise((resolve) => setTimeout(resolve, 500));
    const began = performance.now();
    await server.terminate();
    expect(performance.now() - began).toBeLessThan(5000);
  });
});
