import { spawn, type ChildProcess } from 'node:child_process';
import { readFileSync } from 'node:fs';

/** A server of its own on a data folder. */
export interface Served {
  address: string;
  readyMs: number;
  /** Memory held now, in MB: in all, and without the pages of the database file that the system keeps for it. */
  memory: () => { all: number; own: number };
  stop: () => Promise<void>;
}

const megabytes = (status: string, name: string) =>
  Math.round(Number(new RegExp(`${name}:\\s+(\\d+)`).exec(status)?.[1] ?? 0) / 1024);

function ended(child: ChildProcess): Promise<void> {
  return new Promise((resolve) => child.once('exit', () => resolve()));
}

/** Starts the built server and waits until it is ready. */
export async function serve(folder: string, today: string, port: number): Promise<Served> {
  const start = performance.now();
  const env = { ...process.env, ZAWN_DATA: folder, ZAWN_TODAY: today, ZAWN_DEMO: '1', PORT: String(port) };
  const main = require.resolve('@zawn/server/dist/launch.js');
  const child = spawn(process.execPath, [main], { env, stdio: ['ignore', 'pipe', 'inherit'] });
  await new Promise<void>((resolve, reject) => {
    child.stdout.on('data', (chunk: Buffer) => chunk.toString().includes('Zawn is ready') && resolve());
    child.once('exit', () => reject(new Error('The server did not start.')));
  });
  const readyMs = Math.round(performance.now() - start);
  child.removeAllListeners('exit');
  return {
    address: `http://127.0.0.1:${port}/api/v1`,
    readyMs,
    memory: () => {
      const status = readFileSync(`/proc/${child.pid}/status`, 'utf8');
      return { all: megabytes(status, 'VmRSS'), own: megabytes(status, 'RssAnon') };
    },
    stop: async () => {
      const gone = ended(child);
      child.kill();
      await gone;
    },
  };
}
