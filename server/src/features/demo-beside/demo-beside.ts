import { execFile, spawn, type ChildProcess } from 'node:child_process';
import { existsSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { Inject, Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { isEncrypted, type Config } from '../../platform/config/config';
import { CONFIG } from '../../platform/config/tokens';
import { Problem } from '../../platform/http/problem';

const run = promisify(execFile);
const BUILT = join(__dirname, '..', 'dist');
const MAKE = join(BUILT, 'demo', 'main.js');
const LAUNCH = join(BUILT, 'launch.js');
/** Ports after Zawn's own that are tried. */
const PORTS = 20;
/** How long its start may take, and how often it is looked for. */
const PATIENCE_MS = 60_000;
const LOOK_MS = 150;

interface Running {
  process: ChildProcess;
  port: number;
}

/**
 * The demo company beside an organisation of one's own: a Zawn of its own with data of its own, on the next free
 * port, which ends when this one does.
 */
@Injectable()
export class DemoBeside implements OnApplicationShutdown {
  private readonly logger = new Logger(DemoBeside.name);
  private starting?: Promise<Running>;

  constructor(@Inject(CONFIG) private readonly config: Config) {}

  /**
   * Whether it can be had here: not in the demo itself, nor where people come by an encrypted address, which leads to
   * one port only.
   */
  get isOffered(): boolean {
    return !this.config.demo && !isEncrypted(this.config) && existsSync(LAUNCH);
  }

  /**
   * Starts it, or finds it running.
   * @returns the port it answers at.
   * @throws Problem `conflict` where it is not offered or does not come up.
   */
  async start(): Promise<number> {
    if (!this.isOffered)
      throw new Problem(
        'conflict',
        'There is no demo company beside this Zawn. Start one with npm run demo.',
      );
    this.starting ??= this.bringUp();
    try {
      return (await this.starting).port;
    } catch (error) {
      this.starting = undefined;
      this.logger.error(error);
      throw new Problem(
        'conflict',
        'The demo company could not be started; the log of the server says why. Yours is not touched by that.',
      );
    }
  }

  async onApplicationShutdown(): Promise<void> {
    const running = await this.starting?.catch(() => undefined);
    running?.process.kill();
  }

  private async bringUp(): Promise<Running> {
    const port = await freePort(this.config.port);
    const env = {
      ...process.env,
      PORT: String(port),
      ZAWN_DATA: join(this.config.dataFolder, 'demo-company'),
      ZAWN_DEMO: '1',
      ZAWN_BESIDE: '1',
      ZAWN_ADDRESS: `http://localhost:${port}`,
      ZAWN_BACKUPS: undefined,
      ZAWN_SMTP: undefined,
      ZAWN_MAIL_PORT: undefined,
    };
    await run(process.execPath, [MAKE], { env });
    const child = spawn(process.execPath, [LAUNCH], { env, stdio: ['pipe', 'ignore', 'inherit'] });
    child.once('exit', () => (this.starting = undefined));
    await untilWell(port, child);
    return { process: child, port };
  }
}

/** The first port after one on which nobody listens. */
async function freePort(after: number): Promise<number> {
  for (let port = after + 1; port <= after + PORTS; port += 1) {
    const isFree = await new Promise<boolean>((resolve) => {
      const probe = createServer();
      probe.once('error', () => resolve(false));
      probe.listen(port, () => probe.close(() => resolve(true)));
    });
    if (isFree) return port;
  }
  throw new Error(`None of the ports from ${after + 1} to ${after + PORTS} is free.`);
}

async function untilWell(port: number, child: ChildProcess): Promise<void> {
  for (const until = Date.now() + PATIENCE_MS; Date.now() < until;) {
    if (child.exitCode !== null) throw new Error(`The demo company ended at once, with ${child.exitCode}.`);
    const health = await fetch(`http://127.0.0.1:${port}/api/health`).catch(() => undefined);
    if (health?.ok) return;
    await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
  }
  child.kill();
  throw new Error('The demo company did not come up.');
}
