import { createHash } from 'node:crypto';
import { Inject, Injectable, type OnModuleDestroy } from '@nestjs/common';
import { Clock } from '../../platform/clock/clock';
import { type Config } from '../../platform/config/config';
import { CONFIG } from '../../platform/config/tokens';
import { Phone, type Line, type LineEvents } from './phone';
import { recordingOf } from './recording';

/** What becomes of a call. */
export interface Fate {
  /** Seconds until somebody takes it, or nobody does. */
  rings: number;
  takenBy: 'person' | 'machine' | 'busy' | 'nobody';
  /** Seconds until they hang up; a machine takes a message for so long. */
  talks: number;
  /** Whoever was not reached calls back after so many seconds where the chance, out of a hundred, is smaller than theirs. */
  callsBack: { chance: number; after: number };
}

/** Hundredths of calls that end so, in the hours of offices and outside them. */
const CHANCES = {
  atWork: { person: 58, machine: 14, busy: 10 },
  off: { person: 8, machine: 52, busy: 4 },
} as const;
const NOBODY_AFTER = 20;

/**
 * What becomes of a call to a number in an hour: by chance, and the same each time it is asked.
 * @param at UTC instant; offices are open from eight to five.
 */
export function fateOf(number: string, at: string): Fate {
  const dice = createHash('sha256')
    .update(`${number} ${at.slice(0, 13)}`)
    .digest();
  const hour = Number(at.slice(11, 13));
  const { person, machine, busy } = hour >= 8 && hour < 17 ? CHANCES.atWork : CHANCES.off;
  const chance = dice.readUInt16BE(0) % 100;
  const rings = 2 + (dice[2] % 7);
  const callsBack = { chance: dice[5] % 100, after: 90 + (dice.readUInt16BE(6) % 240) };
  if (chance < person)
    return { rings, takenBy: 'person', talks: 45 + (dice.readUInt16BE(3) % 320), callsBack };
  if (chance < person + machine) return { rings: rings + 6, takenBy: 'machine', talks: 30, callsBack };
  if (chance < person + machine + busy) return { rings: 1, takenBy: 'busy', talks: 0, callsBack };
  return { rings: NOBODY_AFTER, takenBy: 'nobody', talks: 0, callsBack };
}

/**
 * Stands in for a telephone exchange: nobody is rung outside this machine. Who answers, and for how long, is decided
 * by chance; what was said is a sound that is made here.
 */
@Injectable()
export class PhoneStandIn extends Phone implements OnModuleDestroy {
  private readonly under = new Set<StandInLine>();
  private readonly waiting = new Set<NodeJS.Timeout>();

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly clock: Clock,
  ) {
    super();
  }

  dial(number: string, by: number, events: LineEvents): Line {
    const { rings, takenBy, talks, callsBack } = fateOf(number, this.clock.now());
    const line = this.open(number, events);
    if (takenBy !== 'person' && callsBack.chance < (this.config.phoneCallsBack ?? 0))
      this.later(callsBack.after, () => this.incoming?.(by, number));
    line.after(rings, () => {
      if (takenBy === 'busy') line.end('busy');
      else if (takenBy === 'nobody') line.end('unanswered');
      else line.take(takenBy, talks);
    });
    return line;
  }

  ring(number: string, events: LineEvents): Line {
    const { talks } = fateOf(number, this.clock.now());
    const line = this.open(number, events, Math.max(talks, 45));
    line.after(NOBODY_AFTER, () => line.end('missed'));
    return line;
  }

  /** Nothing rings on when the server has stopped. */
  onModuleDestroy(): void {
    for (const line of this.under) line.drop();
    for (const timer of this.waiting) clearTimeout(timer);
  }

  private later(seconds: number, then: () => void): void {
    const timer = setTimeout(
      () => {
        this.waiting.delete(timer);
        then();
      },
      (seconds * 1000) / (this.config.phonePace ?? 1),
    );
    timer.unref();
    this.waiting.add(timer);
  }

  private open(number: string, events: LineEvents, talks = 0): StandInLine {
    const line = new StandInLine(number, events, talks, this.config.phonePace ?? 1, () =>
      this.under.delete(line),
    );
    this.under.add(line);
    return line;
  }
}

class StandInLine implements Line {
  private wait?: NodeJS.Timeout;
  private takenAt?: number;
  private isOver = false;

  /** @param pace how many of its seconds pass in one. */
  constructor(
    private readonly number: string,
    private readonly events: LineEvents,
    private readonly talks: number,
    private readonly pace: number,
    private readonly forget: () => void,
  ) {}

  after(seconds: number, then: () => void): void {
    clearTimeout(this.wait);
    this.wait = setTimeout(then, (seconds * 1000) / this.pace);
    this.wait.unref();
  }

  take(by: 'person' | 'machine', talks: number): void {
    this.takenAt = performance.now();
    this.events.answered(by);
    this.after(talks, () => this.end('theyHungUp'));
  }

  answer(): void {
    if (!this.isOver && this.takenAt === undefined) this.take('person', this.talks);
  }

  hangUp(): void {
    this.end(this.takenAt !== undefined ? 'hungUp' : this.talks > 0 ? 'declined' : 'unanswered');
  }

  end(how: Parameters<LineEvents['ended']>[0]): void {
    if (this.isOver) return;
    this.drop();
    const seconds =
      this.takenAt === undefined ? 0 : Math.round(((performance.now() - this.takenAt) / 1000) * this.pace);
    this.events.ended(how, seconds, seconds > 0 ? recordingOf(this.number, seconds) : null);
  }

  drop(): void {
    this.isOver = true;
    clearTimeout(this.wait);
    this.forget();
  }
}
