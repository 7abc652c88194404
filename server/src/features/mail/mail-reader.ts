import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { Inject, Injectable, type OnModuleDestroy } from '@nestjs/common';
import { Piscina } from 'piscina';
import { CONFIG } from '../../platform/config/tokens';
import { Clock } from '../../platform/clock/clock';
import { type Config } from '../../platform/config/config';
import { parseMail, type ParsedMail } from './parse-mail';

const WORKER = join(__dirname, 'mail-worker.js');
const IDLE_MS = 60_000;
/** No honest message takes longer to take apart. */
const LONGEST_MS = 5000;
/** Messages that wait to be taken apart; the others are asked to come again. */
const MOST_WAITING = 40;

/**
 * Takes messages apart in a thread of their own, with a limit of time and memory: anybody may write to a capture
 * address, and whatever they write must not hold up the others. Where the compiled worker is not at hand, in this one.
 */
@Injectable()
export class MailReader implements OnModuleDestroy {
  private readonly pool?: Piscina<{ raw: Uint8Array; now: string }, ParsedMail>;

  constructor(
    @Inject(CONFIG) config: Config,
    private readonly clock: Clock,
  ) {
    if (config.reading === 'pooled' && existsSync(WORKER))
      this.pool = new Piscina({
        filename: WORKER,
        minThreads: 0,
        maxThreads: 1,
        maxQueue: MOST_WAITING,
        idleTimeout: IDLE_MS,
        resourceLimits: { maxOldGenerationSizeMb: 256 },
      });
  }

  /**
   * A message and what came with it.
   * @throws Error when it is none, or takes more time or memory than any honest one.
   */
  read(raw: Uint8Array): Promise<ParsedMail> {
    const now = this.clock.now();
    if (!this.pool) return parseMail(raw, now);
    return this.pool.run({ raw, now }, { signal: AbortSignal.timeout(LONGEST_MS) });
  }

  async onModuleDestroy(): Promise<void> {
    await this.pool?.destroy();
  }
}
