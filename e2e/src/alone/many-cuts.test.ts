import { readdirSync, existsSync } from 'node:fs';
import { join } from 'node:path';
import { send, signIn, type Answer } from '../wire';
import { startZawn, type ZawnServer } from '../zawn-server';

/** How often the server is killed; `npm run fuzz` does it more often. */
const CUTS = Number(process.env.ZAWN_CUTS ?? 30);

const AT_ONCE = 3;

jest.setTimeout(30_000 + CUTS * 4000);

const ROWS = 60;
/** Milliseconds an import is waited for. */
const LONGEST_WAIT = 8000;

const pause = (milliseconds: number) => new Promise((resolve) => setTimeout(resolve, milliseconds));

type Headers = Record<string, string>;
type Row = Record<string, unknown> & { id: number };

/** Something that was acknowledged, and how to see whether it is still there. */
interface Kept {
  what: string;
  isThere: (server: ZawnServer, headers: Headers) => Promise<boolean>;
}

const rowsOf = async (server: ZawnServer, headers: Headers, object: string, name: string, limit = 1000) => {
  const question = { version: 1, object, where: { field: 'name', is: 'startsWith', value: name } };
  const { body } = await send(server, 'POST', '/questions/records', { question, limit }, headers);
  return body.rows as Row[];
};
const valueOf = ({ body }: Answer) => body.value as Row;

/** Everything people do at once, until the server is gone. Each action adds what was acknowledged. */
function busy(server: ZawnServer, headers: Headers, me: number, round: number, kept: Kept[]) {
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
        kept.push({ what: name, isThere: async (...at) => (await rowsOf(...at, 'lead', name)).length === 1 });
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
        isThere: async (...at) => {
          // Both halves or none; both, once it was acknowledged.
          const [converted] = await rowsOf(...at, 'lead', name);
          const contacts = await rowsOf(...at, 'contact', `${name} contact`);
          const isConverted = converted.convertedAt !== null;
          return isConverted === (contacts.length === 1) && (isConverted || !done);
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
          isThere: async (...at) => (await rowsOf(...at, 'lead', name)).length === 0,
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
        isThere: async (at, as) => {
          const response = await fetch(`${at.address}/api/v1/files/${id}/content`, { headers: as });
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
        isThere: async (...at) => {
          for (let tries = 0; tries < 50; tries += 1) {
            const rows = await rowsOf(...at, 'lead', `${name} bulk`);
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
        isThere: async (at, as) => {
          const { length } = await rowsOf(at, as, 'lead', `${name} row`);
          if (length !== 0 && length !== ROWS) return false;
          if (begun?.status !== 201) return true;
          const { body } = await send(at, 'GET', `/imports/${String(begun.body.id)}`, undefined, as);
          return body.state === (length === ROWS ? 'done' : 'stopped');
        },
      });
    },
  ];
  const work = async (action: (name: string) => Promise<void>, index: number) => {
    for (let count = 0; !isDown; count += 1)
      await action(`Cut ${round}-${index}-${count};`).catch(() => undefined);
  };
  return Promise.all(actions.map(work));
}

/** Kills one server so often; returns how many of each kind of action were looked at afterwards. */
async function cutOften(times: number, stream: number): Promise<Map<string, number>> {
  let server = await startZawn({ demo: true });
  const { folder } = server;
  const seen = new Map<string, number>();
  try {
    const { headers, me } = await signIn(server);
    for (let round = 0; round < times; round += 1) {
      const kept: Kept[] = [];
      const working = busy(server, headers, me, stream * 1000 + round, kept);
      // Now and then an import is to be under way, or through.
      const hasBegun = () => round % 10 !== 6 || kept.some(({ what }) => what.startsWith('import'));
      for (let waited = 0; !hasBegun() && waited < LONGEST_WAIT; waited += 20) await pause(20);
      await pause(50 + ((round * 67) % 250));
      await server.kill();
      await working;
      server = await startZawn({ demo: true, folder });
      const there = await Promise.all(kept.map(({ isThere }) => isThere(server, headers)));
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
  // The demo company is made once, and copied by those that are killed.
  beforeAll(async () => (await startZawn({ demo: true })).stop());

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
