import { execFile } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { Inject, Injectable, Logger } from '@nestjs/common';
import { type BackupKept, type Backups as Answer } from '@zawn/core';
import { ClockWatch } from '../../platform/clock/clock-watch';
import { Clock } from '../../platform/clock/clock';
import { type Config } from '../../platform/config/config';
import { CONFIG } from '../../platform/config/tokens';
import { Problem } from '../../platform/http/problem';
import { Nightly, type HasNightlyJobs, type NightlyJob } from '../../kernel/jobs/nightly-jobs';
import { backUp } from './backup';

const MINUTE_MS = 60_000;
const MAIN = join(__dirname, '..', 'dist', 'features', 'safe-keeping', 'main.js');
/** How the archives that Zawn makes by itself are called; others in the folder are left alone. */
const OWN = /^zawn-(\d{4})-(\d\d)-(\d\d)-(\d\d)(\d\d)(\d\d)\.tar\.gz$/;

const run = promisify(execFile);

/** Backups made by themselves each night, and on demand, in the folder of ZAWN_BACKUPS; the oldest go. */
@Nightly()
@Injectable()
export class Backups implements HasNightlyJobs {
  private readonly logger = new Logger(Backups.name);
  private making?: Promise<void>;
  private failure: string | null = null;

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly clock: Clock,
    private readonly watch: ClockWatch,
  ) {}

  nightlyJobs(): NightlyJob[] {
    if (!this.config.backups) return [];
    return [
      {
        name: 'backup',
        // One that does not come off is said on its page, and keeps no other nightly job from being done.
        work: () => this.make().catch(() => undefined),
      },
    ];
  }

  /** What is kept, the latest first. */
  async all(): Promise<Answer> {
    const { backups } = this.config;
    const behind = await this.watch.behindBy();
    return {
      clockBehind: behind === null ? null : Math.round(behind / MINUTE_MS),
      folder: backups?.folder ?? null,
      keeps: backups?.keeps ?? 0,
      kept: backups ? keptIn(backups.folder) : [],
      isMaking: this.making !== undefined,
      failure: this.failure,
    };
  }

  /**
   * Makes one, and lets the oldest go that are too many. Whoever asks while one is being made gets that one.
   * @throws Problem `conflict` where there is no folder for backups, or when it did not come off.
   */
  async make(): Promise<void> {
    const { backups } = this.config;
    if (!backups)
      throw new Problem(
        'conflict',
        'There is no folder for backups. Start Zawn with ZAWN_BACKUPS set to one.',
      );
    this.making ??= this.makeIn(backups).finally(() => (this.making = undefined));
    await this.making;
  }

  private async makeIn({ folder, keeps }: NonNullable<Config['backups']>): Promise<void> {
    const at = this.clock.now();
    const file = join(folder, `zawn-${at.slice(0, 19).replaceAll(':', '').replace('T', '-')}.tar.gz`);
    try {
      mkdirSync(folder, { recursive: true });
      if (existsSync(file)) return;
      await this.keep(file, at);
      this.failure = null;
      for (const { name } of keptIn(folder).slice(keeps)) rmSync(join(folder, name));
    } catch (error) {
      this.failure = (error as { stderr?: string }).stderr?.trim() || (error as Error).message;
      this.logger.error(`The backup did not come off: ${this.failure}`);
      throw new Problem('conflict', `The backup did not come off: ${this.failure}`);
    }
  }

  /** In a process of its own, so that nobody waits; where the compiled command is not at hand, in this one. */
  private async keep(file: string, at: string): Promise<void> {
    const { dataFolder } = this.config;
    if (existsSync(MAIN))
      await run(process.execPath, [MAIN, 'backup', file], { env: { ...process.env, ZAWN_DATA: dataFolder } });
    else await backUp(dataFolder, file, at);
  }
}

function keptIn(folder: string): BackupKept[] {
  if (!existsSync(folder)) return [];
  return readdirSync(folder)
    .filter((name) => OWN.test(name))
    .sort()
    .reverse()
    .map((name) => {
      const [, year, month, day, hour, minute, second] = OWN.exec(name) ?? [];
      return {
        name,
        at: `${year}-${month}-${day}T${hour}:${minute}:${second}.000Z`,
        bytes: statSync(join(folder, name)).size,
      };
    });
}
