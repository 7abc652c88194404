import { copyFileSync, mkdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import BetterSqlite from 'better-sqlite3';
import { serve } from './served';

const ROWS = 100_000;
const PORT = 4792;

/** What an import of many rows took. */
export interface Importing {
  seconds: number;
  /**
   * A bare insert of the same rows into the same table with its indexes, by hand: the mean of two before and two
   * after, since it swings with how busy the machine is.
   */
  byHandSeconds: number;
  /** The most memory the server held of its own, in MB, looked at ten times a second. */
  peakMb: number;
}

const values = (at: number) => [
  `Person Number ${at}`,
  `Firm ${at % 7000} Harbour`,
  `person${at}@firm${at % 7000}.example`,
  `01632 960${String(at % 1000).padStart(3, '0')}`,
  `Town ${at % 300}`,
  'GB',
  'Website',
  'water level',
  String(1000 + (at % 9000)),
  `Met at the fair and asked for a call back ${at}`,
];

const HEADINGS = 'Name,Organisation,Mail,Phone,Town,Country,Source,Interest,Budget,Description';

interface Caller {
  (method: string, path: string, body?: object | string): Promise<Record<string, unknown>>;
}

/** Someone signed in at the server. */
async function signIn(address: string): Promise<Caller> {
  const credentials = { email: 'bram.tideswell@brackwater.example', password: 'brackwater' };
  const signed = await fetch(`${address}/session`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(credentials),
  });
  const cookie = signed.headers.get('set-cookie')?.split(';')[0] ?? '';
  const { csrf } = (await signed.json()) as { csrf: string };
  return async (method, path, body) => {
    const isFile = typeof body === 'string';
    const response = await fetch(address + path, {
      method,
      headers: {
        Cookie: cookie,
        'X-CSRF-Token': csrf,
        'Content-Type': isFile ? 'application/octet-stream' : 'application/json',
      },
      body: isFile ? body : body && JSON.stringify(body),
    });
    const answer = (await response.json()) as Record<string, unknown>;
    if (!response.ok) throw new Error(`${method} ${path}: ${String(answer.detail)}`);
    return answer;
  };
}

/** The same rows put into the table by hand, with the least a record needs. */
function insertByHand(file: string): number {
  const database = new BetterSqlite(file);
  database.pragma('journal_mode = WAL');
  database.pragma('synchronous = NORMAL');
  const at = '2026-11-19T09:30:00.000Z';
  const insert = database.prepare(
    `INSERT INTO lead (version, createdAt, createdBy, updatedAt, name, organisation, email, phone, city, country, source, interest, budget, description, currency, status, owner) VALUES (1, ?, 1, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, 'GBP', 'untouched', 1)`,
  );
  const start = performance.now();
  database.transaction(() => {
    for (let row = 0; row < ROWS; row += 1) insert.run(at, at, ...values(row));
  })();
  database.pragma('wal_checkpoint(TRUNCATE)');
  const seconds = (performance.now() - start) / 1000;
  database.close();
  return seconds;
}

/** Brings 100,000 leads into a copy of a data folder, from the button to the report, through the running server. */
export async function importing(folder: string, today: string): Promise<Importing> {
  const copy = `${folder}-import`;
  const fresh = () => {
    rmSync(copy, { recursive: true, force: true });
    mkdirSync(copy, { recursive: true });
    copyFileSync(join(folder, 'zawn.sqlite'), join(copy, 'zawn.sqlite'));
  };
  const byHand = () => {
    fresh();
    return insertByHand(join(copy, 'zawn.sqlite'));
  };
  const inserts = [byHand(), byHand()];
  fresh();
  const { seconds, peakMb } = await throughServer(copy, today);
  inserts.push(byHand(), byHand());
  rmSync(copy, { recursive: true, force: true });
  return { seconds, byHandSeconds: inserts.reduce((sum, each) => sum + each) / inserts.length, peakMb };
}

async function throughServer(folder: string, today: string): Promise<Omit<Importing, 'byHandSeconds'>> {
  const server = await serve(folder, today, PORT);
  try {
    const call = await signIn(server.address);
    const rows = Array.from({ length: ROWS }, (_, at) => values(at).join(','));
    const look = await call('POST', '/imports/files?name=leads.csv&as=lead', [HEADINGS, ...rows].join('\n'));
    const start = performance.now();
    const { id } = await call('POST', '/imports', {
      file: look.file,
      fileName: 'leads.csv',
      setup: look.setup,
    });
    let state: Record<string, unknown>;
    let peakMb = 0;
    do {
      await new Promise((resolve) => setTimeout(resolve, 100));
      state = await call('GET', `/imports/${String(id)}`);
      peakMb = Math.max(peakMb, server.memory().own);
    } while (state.state === 'running');
    const { create } = state.counts as { create: number };
    if (state.state !== 'done' || create !== ROWS)
      throw new Error(`The import came to ${JSON.stringify(state)}`);
    return { seconds: (performance.now() - start) / 1000, peakMb };
  } finally {
    await server.stop();
  }
}
