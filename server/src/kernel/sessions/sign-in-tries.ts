import { setTimeout } from 'node:timers/promises';
import { Injectable } from '@nestjs/common';
import { Problem } from '../../platform/http/problem';

/** From where an account is tried. */
export interface Origin {
  account: string;
  address: string;
  /** The browser, where its person has signed in before. */
  browser?: string;
}

interface Failures {
  count: number;
  lastAt: number;
}

/** Failures after which one place has to wait for an account, and how long at most. */
const FREE = 5;
const LONGEST_WAIT_MS = 300_000;
/** Failures with one account from anywhere, and from one address with any account, after which tries stand in line. */
const FREE_OF_ACCOUNT = 20;
const FREE_OF_ADDRESS = 30;
const LONGEST_PAUSE_MS = 4000;
/** Tries that stand in one line; more than these are turned away. */
const LONGEST_LINE = 20;
/** What is not tried for so long is forgotten. */
const FORGOTTEN_MS = 900_000;
const MOST_REMEMBERED = 50_000;

/**
 * Slows down guessing without locking anybody out by what others try. Each place, an address or a browser that is
 * known, has growing waits of its own for an account. Beyond that, an account that is tried from many places, and an
 * address that tries many accounts, have their tries stand in line, one after the other with growing pauses: there the
 * right password still opens. A browser in which the person has signed in before stands in no line.
 */
@Injectable()
export class SignInTries {
  private readonly places = new Map<string, Failures>();
  private readonly accounts = new Map<string, Failures>();
  private readonly addresses = new Map<string, Failures>();
  private readonly lines = new Map<string, { waiting: number; last: Promise<void> }>();

  /**
   * Lets one try happen when it may.
   * @returns what is to be called with how it went.
   * @throws Problem `too-many-requests` when this place has to wait.
   */
  async admit(origin: Origin, now: () => number = Date.now): Promise<(isRight: boolean) => void> {
    const { account, address, browser } = origin;
    const place = `${account} ${browser ?? address}`;
    this.refuseInHaste(place, now());
    // Counted before the password is looked at, so that tries at the same time do not all get in.
    fail(this.places, place, now());
    if (browser === undefined) {
      await this.stand(`account ${account}`, this.accounts.get(account), FREE_OF_ACCOUNT);
      await this.stand(`address ${address}`, this.addresses.get(address), FREE_OF_ADDRESS);
    }
    return (isRight) => {
      if (isRight) this.places.delete(place);
      else if (browser === undefined) {
        fail(this.accounts, account, now());
        fail(this.addresses, address, now());
      }
    };
  }

  private refuseInHaste(place: string, now: number): void {
    const failures = this.places.get(place);
    if (!failures || failures.count < FREE) return;
    const wait = Math.min(1000 * 2 ** (failures.count - FREE), LONGEST_WAIT_MS);
    const left = failures.lastAt + wait - now;
    if (left <= 0) return;
    const seconds = Math.ceil(left / 1000);
    throw new Problem(
      'too-many-requests',
      `Too many tries. Wait ${seconds === 1 ? 'a second' : `${seconds} seconds`}, then try again.`,
    );
  }

  /** Waits for one's turn in a line, as long as there is reason for one. */
  private async stand(name: string, failures: Failures | undefined, free: number): Promise<void> {
    if (!failures || failures.count < free) return;
    const line = this.lines.get(name) ?? { waiting: 0, last: Promise.resolve() };
    if (line.waiting >= LONGEST_LINE)
      throw new Problem(
        'too-many-requests',
        'Too many tries from everywhere. Wait a minute, then try again.',
      );
    const pause = Math.min(250 * 2 ** Math.floor((failures.count - free) / free), LONGEST_PAUSE_MS);
    line.waiting += 1;
    line.last = line.last.then(() => setTimeout(pause));
    this.lines.set(name, line);
    await line.last;
    line.waiting -= 1;
    if (line.waiting === 0) this.lines.delete(name);
  }
}

function fail(counted: Map<string, Failures>, name: string, now: number): void {
  const before = counted.get(name);
  const isFresh = before !== undefined && now - before.lastAt < FORGOTTEN_MS;
  // Put in anew, so that the first in the map is the one not tried for longest.
  counted.delete(name);
  counted.set(name, { count: (isFresh ? before.count : 0) + 1, lastAt: now });
  for (const [oldest, { lastAt }] of counted) {
    if (counted.size <= MOST_REMEMBERED && now - lastAt < FORGOTTEN_MS) break;
    counted.delete(oldest);
  }
}
