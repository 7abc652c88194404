import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { cpSync, existsSync, mkdtempSync, readdirSync, renameSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const SERVER = join(__dirname, '..', '..', 'server', 'dist');

/** The day that stories and pictures take place on: a Thursday in the middle of a fiscal quarter. */
export const FIXED_DAY = '2026-11-19';

/** The built server on a port and data folder of its own. */
export interface ZawnServer {
  address: string;
  /** Where its mail stand-in listens. */
  mailPort: number;
  folder: string;
  /** Ends it at once, as a power cut would. */
  kill: () => Promise<void>;
  /** Tells it to stop, as whoever runs it would, and waits until it has. */
  terminate: () => Promise<void>;
  /** Ends it and removes its data. */
  stop: () => Promise<void>;
}

export interface StartOptions {
  /** Ships the demo company; otherwise the folder begins empty. */
  demo: boolean;
  /** Uses this folder's data instead of a new one's. */
  folder?: string;
  /** The day that it is, as `2026-11-19`. */
  today?: string;
}

/**
 * The next port to try. Those that the system gives to whoever connects lie above 32,767 and can be taken between
 * looking and listening; test files that run at the same time look in different places.
 */
let nextPort = 10_000 + (Number(process.env.JEST_WORKER_ID ?? 0) % 10) * 2000 + (process.pid % 1000);

/** A port that is free at this moment, and is not given twice. */
function freePort(): Promise<number> {
  const port = nextPort;
  nextPort += 1;
  return new Promise((resolve) => {
    const probe = createServer();
    probe.once('error', () => resolve(freePort()));
    probe.listen(port, '127.0.0.1', () => probe.close(() => resolve(port)));
  });
}

function ready(child: ChildProcess): Promise<void> {
  return new Promise((resolve, reject) => {
    let said = '';
    const listen = (chunk: Buffer) => {
      said += chunk.toString();
      if (said.includes('Zawn is ready')) resolve();
    };
    child.stdout?.on('data', listen);
    child.stderr?.on('data', listen);
    child.once('exit', () => reject(new Error(`The server did not start: ${said}`)));
  });
}

/** Keeps a copy of a folder for others: whole, or not at all, whoever else does so at the same time. */
function keep(folder: string, kept: string): void {
  const unfinished = mkdtempSync(`${kept}-`);
  cpSync(folder, unfinished, { recursive: true });
  try {
    renameSync(unfinished, kept);
  } catch {
    rmSync(unfinished, { recursive: true, force: true });
  }
}

/** Puts the demo company into an empty folder; made once, it is copied for whoever starts later in the same run. */
function fill(folder: string, env: NodeJS.ProcessEnv): void {
  const kept = process.env.ZAWN_TEST_DEMOS && join(process.env.ZAWN_TEST_DEMOS, 'built');
  if (!kept || !existsSync(kept)) {
    const { status } = spawnSync(process.execPath, [join(SERVER, 'demo', 'main.js')], {
      env,
      stdio: 'inherit',
    });
    if (status !== 0) throw new Error('The demo company could not be made.');
    if (kept) keep(folder, kept);
  } else cpSync(kept, folder, { recursive: true });
}

/** Starts the built server. */
export async function startZawn({
  demo,
  folder = mkdtempSync(join(tmpdir(), 'zawn-')),
  today = FIXED_DAY,
}: StartOptions): Promise<ZawnServer> {
  const [port, mailPort] = await Promise.all([freePort(), freePort()]);
  const env = {
    ZAWN_PHONE_CALLS_BACK: '0',
    ...process.env,
    PORT: String(port),
    ZAWN_MAIL_PORT: String(mailPort),
    ZAWN_DATA: folder,
    ZAWN_TODAY: today,
    ZAWN_DEMO: demo ? '1' : '0',
  };
  if (demo && readdirSync(folder).length === 0) fill(folder, env);
  const child = spawn(process.execPath, [join(SERVER, 'launch.js')], {
    env,
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  await ready(child);
  const end = (signal: NodeJS.Signals) =>
    new Promise<void>((resolve) => {
      if (child.exitCode !== null || child.signalCode !== null) resolve();
      child.once('exit', () => resolve());
      child.kill(signal);
    });
  const kill = () => end('SIGKILL');
  return {
    address: `http://127.0.0.1:${port}`,
    mailPort,
    folder,
    kill,
    terminate: () => end('SIGTERM'),
    stop: async () => {
      await kill();
      // A demo company beside it ends a moment later than its Zawn.
      rmSync(folder, { recursive: true, force: true, maxRetries: 20, retryDelay: 100 });
    },
  };
}
