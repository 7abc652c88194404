import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { Database } from '../../platform/database/database';
import { secretOf } from '../../platform/database/secret';

const SECRET = 'pageKeys';
/** No person reads and fills in a form faster than this. */
const FASTEST_MS = 2000;
/** A page left open longer than this has to be sent once more. */
const LONGEST_MS = 86_400_000;

/** What the key of a page says about how it was sent. */
export type KeyReading = { is: 'invalid' } | { is: 'fast' | 'good'; nonce: string };

/** Signs each page of a form as it is handed out, so that it tells when that was and counts once. */
@Injectable()
export class PageKeys {
  private secret?: Promise<Buffer>;

  constructor(private readonly database: Database) {}

  /**
   * A key for one page of a form.
   * @param at when it is handed out, in ms. Real time even where the clock stands still: a person's haste is measured.
   */
  async make(slug: string, at = Date.now()): Promise<string> {
    const body = `${at.toString(36)}.${randomBytes(12).toString('base64url')}`;
    return `${body}.${await this.sign(slug, body)}`;
  }

  /** Whether a key was made for this form, and how long ago. */
  async read(slug: string, key: string, now = Date.now()): Promise<KeyReading> {
    const [at = '', nonce = '', signature = ''] = key.split('.');
    const expected = Buffer.from(await this.sign(slug, `${at}.${nonce}`));
    const given = Buffer.from(signature);
    if (given.length !== expected.length || !timingSafeEqual(given, expected)) return { is: 'invalid' };
    const age = now - Number.parseInt(at, 36);
    if (!(age >= 0 && age <= LONGEST_MS)) return { is: 'invalid' };
    return { is: age < FASTEST_MS ? 'fast' : 'good', nonce };
  }

  private async sign(slug: string, body: string): Promise<string> {
    this.secret ??= secretOf(this.database, SECRET);
    return createHmac('sha256', await this.secret)
      .update(`${slug} ${body}`)
      .digest('base64url');
  }
}
