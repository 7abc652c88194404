import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { Database } from '../../platform/database/database';
import { secretOf } from '../../platform/database/secret';

const SECRET = 'known browsers';

/** A browser in which somebody has signed in before. */
export interface KnownBrowser {
  account: string;
  id: string;
}

/**
 * Marks browsers in which a person has signed in, so that what strangers try with that person's address slows the
 * strangers down and not the person. The mark alone opens nothing.
 */
@Injectable()
export class KnownBrowsers {
  private secret?: Promise<Buffer>;

  constructor(private readonly database: Database) {}

  /** A mark for a browser. */
  async mark(account: string): Promise<string> {
    const id = randomBytes(12).toString('base64url');
    return `${id}.${await this.sign(account, id)}`;
  }

  /** Which browser of an account a mark names; undefined when it is none of it. */
  async read(account: string, mark: string | undefined): Promise<KnownBrowser | undefined> {
    const [id = '', signature = ''] = (mark ?? '').split('.');
    if (!id) return undefined;
    const [given, expected] = [Buffer.from(signature), Buffer.from(await this.sign(account, id))];
    return given.length === expected.length && timingSafeEqual(given, expected) ? { account, id } : undefined;
  }

  private async sign(account: string, id: string): Promise<string> {
    this.secret ??= secretOf(this.database, SECRET);
    return createHmac('sha256', await this.secret)
      .update(`${account} ${id}`)
      .digest('base64url');
  }
}
