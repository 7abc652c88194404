import { readdirSync, existsSync } from 'node:fs';
import { join } from 'node:path';
import { found, send, type Answer } from '../wire';
import { startZawn, type ZawnServer } from '../zawn-server';

/** How often the server is killed; `npm run fuzz` does it more often. */
const CUTS = Number(process.env.ZAWN_CUTS ?? 30);

const AT_ONCE = 3;

jest.setTimeout(30_000 + CUTS * 4000);

const ROWS = 60;
/** Milliseconds that something acknowledged is waited for. */
const LONGEST_WAIT = 8000;

const pause = (milliseconds: number) => new Promise((resolve) => setTimeout(resolve, milliseconds));

type Headers = Record<string, string>;
type Row = Record<string, unknown> & { id: number };

/** A server that was started again, and what it holds of the round before. */
interface Restarted {
  server: ZawnServer;
  headers: Headers;
  leads: Row[];
  contacts: Row[];
}

/** Something that was acknowledged, and how to see whether it is still there. */
interface Kept {
  what: string;
  isThere: (restarted: Restarted) => boolean | Promise<boolean>;
}

/** All records of an object whose name begins so. */
async function rowsOf(server: ZawnServer, headers: Headers, object: string, name: string): Promise<Row[]> {
  const question = { version: 1, object, where: { field: 'name', is: 'startsWith', value: name } };
  const rows: Row[] = [];
  let cursor: string | null | undefined;
  do {
    const page = { question, limit: 200, ...(cursor && { cursor }) };
    const { body } = await send(server, 'POST', '/questions/records', page, headers);
    rows.push(...(body.rows as Row[]));
    cursor = body.next as string | null;
  } while (cursor);
  return rows;
}

const named = (rows: Row[], name: string) => rows.filter((row) => String(row.name).startsWith(name));
const valueOf = ({ body }: Answer) => body.value as Row;

/**
 * Everything people do at once, until the server is gone. Each action adds what was acknowledged.
 * @param ahead which of the actions is acknowledged once before the others begin, so that each has its turn.
 */
function busy(server: ZawnServer, headers: Headers, me: number, round: number, kept: Kept[], ahead: number) {
  let isDown = false;
  const post = async (
    path: string,
    body: object | string,
    more: Headers = {},
  ): Promise<Answer | undefined> => {
    if (isDown) return undefined;
    const answer = await send(server, 'POST', path, body, { ...headers, ...more }).catch(() => undefined);
    if (!answer) isDown = true;
    return answer;
  };
  const lead = (name: string) => post('/leads', { name, status: 'untouched', owner: me });

  const actions: ((name: string) => Promise<void>)[] = [
    async (name) => {
      const answer = await lead(name);
      if (answer?.status === 201)
        kept.push({ what: name, isThere: ({ leads }) => named(leads, name).length === 1 });
    },
    async (name) => {
      const made = await lead(name);
      if (made?.status !== 201) return;
      const { id } = valueOf(made);
      const choice = {
        contact: { create: { name: `${name} contact`, owner: me } },
        account: null,
        deal: null,
      };
      const answer = await post(`/leads/${id}/conversion`, choice, { 'If-Match': '"1"' });
      const done = answer?.status === 201;
      kept.push({
        what: `conversion of ${name}`,
        isThere: ({ leads, contacts }) => {
          // Both halves or none; both, once it was acknowledged.
          const isConverted = named(leads, name)[0].convertedAt !== null;
          const made = named(contacts, `${name} contact`).length;
          return made === (isConverted ? 1 : 0) && (isConverted || !done);
        },
      });
    },
    async (name) => {
      const made = await lead(name);
      if (made?.status !== 201) return;
      const answer = await post(`/units/${String(made.body.unit)}/undo`, {});
      if (answer?.status === 200)
        kept.push({
          what: `undo of ${name}`,
          isThere: ({ leads }) => named(leads, name).length === 0,
        });
    },
    async (name) => {
      const made = await lead(name);
      if (made?.status !== 201) return;
      const path = `/leads/${valueOf(made).id}/files?name=note.txt`;
      const text = `${name}\n`.repeat(2000);
      const answer = await post(path, text, { 'Content-Type': 'application/octet-stream' });
      if (answer?.status !== 201) return;
      const { id } = valueOf(answer);
      kept.push({
        what: `file of ${name}`,
        isThere: async ({ server, headers }) => {
          const response = await fetch(`${server.address}/api/v1/files/${id}/content`, { headers });
          return response.status === 200 && (await response.text()) === text;
        },
      });
    },
    async (name) => {
      const ids: number[] = [];
      for (let index = 0; index < 3; index += 1) {
        const made = await lead(`${name} bulk ${index}`);
        if (made?.status === 201) ids.push(valueOf(made).id);
      }
      if (ids.length < 3) return;
      const action = { do: 'change', values: { organisation: 'Changed' } };
      const answer = await post('/bulk', { object: 'lead', selection: { ids }, action });
      if (answer?.status !== 200) return;
      kept.push({
        what: `bulk of ${name}`,
        // Begun, it goes on by itself after the restart.
        isThere: async ({ server, headers }) => {
          for (let tries = 0; tries < 50; tries += 1) {
            const rows = await rowsOf(server, headers, 'lead', `${name} bulk`);
            if (rows.every(({ organisation }) => organisation === 'Changed')) return rows.length === 3;
            await pause(20);
          }
          return false;
        },
      });
    },
    async (name) => {
      const csv = `Name,Status\n${Array.from({ length: ROWS }, (_, at) => `${name} row ${at},untouched`).join('\n')}`;
      const bytes = { 'Content-Type': 'application/octet-stream' };
      const looked = await post('/imports/files?name=cut.csv&as=lead', csv, bytes);
      if (looked?.status !== 201) return;
      const { file, fileName, setup } = looked.body;
      const begun = await post('/imports', { file, fileName, setup });
      kept.push({
        what: `import of ${name}`,
        isThere: async ({ server, headers, leads }) => {
          const { length } = named(leads, `${name} row`);
          if (length !== 0 && length !== ROWS) return false;
          if (begun?.status !== 201) return true;
          const path = `/imports/${String(begun.body.id)}`;
          const { body } = await send(server, 'GET', path, undefined, headers);
          return body.state === (length === ROWS ? 'done' : 'stopped');
        },
      });
    },
  ];
  const work = async (action: (name: string) => Promise<void>, index: number) => {
    while (index !== ahead % actions.length && kept.length === 0 && !isDown) await pause(10);
    for (let count = 0; !isDown; count += 1)
      await action(`Cut ${round}-${index}-${count};`).catch(() => undefined);
  };
  return Promise.all(actions.map(work));
}

/** Kills one server so often; returns how many of each kind of action were looked at afterwards. */
async function cutOften(times: number, stream: number): Promise<Map<string, number>> {
  let server = await startZawn({ demo: false });
  const { folder } = server;
  const seen = new Map<string, number>();
  try {
    const { headers, me } = await found(server);
    for (let round = 0; round < times; round += 1) {
      const kept: Kept[] = [];
      const number = stream * 1000 + round;
      const working = busy(server, headers, me, number, kept, round + stream);
      for (let waited = 0; kept.length === 0 && waited < LONGEST_WAIT; waited += 10) await pause(10);
      await pause((round * 67) % 250);
      await server.kill();
      await working;
      server = await startZawn({ demo: false, folder });
      const leads = await rowsOf(server, headers, 'lead', `Cut ${number}-`);
      const contacts = await rowsOf(server, headers, 'contact', `Cut ${number}-`);
      const restarted = { server, headers, leads, contacts };
      const there = await Promise.all(kept.map(async ({ isThere }) => isThere(restarted)));
      expect(kept.filter((_, index) => !there[index]).map(({ what }) => what)).toEqual([]);
      for (const { what } of kept) {
        const kind = what.startsWith('Cut') ? 'lead' : what.split(' ')[0];
        seen.set(kind, (seen.get(kind) ?? 0) + 1);
      }
      for (const part of ['files', 'imports'].map((name) => join(folder, name)).filter(existsSync))
        expect(readdirSync(part).filter((name) => name.endsWith('.part'))).toEqual([]);
    }
    const health = await fetch(`${server.address}/api/health`);
    expect(await health.json()).toMatchObject({ status: 'ok' });
  } finally {
    await server.stop();
  }
  return seen;
}

describe('a server killed again and again, whatever it is doing', () => {
  it('has lost nothing that it acknowledged, and nothing is half done', async () => {
    // Several at a time: most of the time goes into starting again.
    const each = Math.ceil(CUTS / AT_ONCE);
    const times = Array.from({ length: AT_ONCE }, (_, index) => Math.min(each, CUTS - index * each));
    const seen = await Promise.all(times.map((cuts, index) => cutOften(cuts, index + 1)));
    // Nothing was left out of the mixture.
    const kinds = new Set(seen.flatMap((each) => [...each.keys()]));
    expect([...kinds].sort()).toEqual(['bulk', 'conversion', 'file', 'import', 'lead', 'undo']);
  });
});
