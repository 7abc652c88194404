import { createHash, randomBytes } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { hash, verify } from '@node-rs/argon2';
import { type Actor } from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { type CredentialRow, type SessionRow } from '../../platform/database/rows';
import { Organisation } from '../organisation/organisation';

const DAYS = 7;
const DAY_MS = 86_400_000;

/** What a browser is handed at sign-in: the secret for its cookie. */
export interface NewSession {
  token: string;
  maxAgeMs: number;
}

export interface Signed {
  actor: Actor;
  csrf: string;
}

/** Only the hash is kept: whoever reads the database cannot sign in with what stands there. */
const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');

/** argon2id with the package's defaults (19 MiB, two passes). */
export const hashPassword = (password: string) => hash(password);

/** Server-side sessions, kept in the database and ended by time or sign-out. */
@Injectable()
export class Sessions {
  /** Verified against when nobody has that address, so that the time taken gives nothing away. */
  private readonly decoy = hashPassword(randomBytes(16).toString('hex'));

  constructor(
    private readonly database: Database,
    private readonly organisation: Organisation,
    private readonly clock: Clock,
  ) {}

  /** Starts a session; undefined when email address and password do not belong together. */
  async signIn(email: string, password: string): Promise<NewSession | undefined> {
    const people = (await this.organisation.exists()) ? await this.organisation.people() : [];
    const person = people.find(
      (colleague) => colleague.active && colleague.email === email.trim().toLowerCase(),
    );
    const credential =
      person &&
      (await this.database.reading.manager.findOneBy<CredentialRow>('credential', { person: person.id }));
    const right = await verify(credential?.hash ?? (await this.decoy), password);
    return person && credential && right ? this.begin(person.id) : undefined;
  }

  /** Starts a session for a person without asking anything. */
  async begin(person: number): Promise<NewSession> {
    const token = randomBytes(32).toString('base64url');
    const now = Date.parse(this.clock.now());
    const row: SessionRow = {
      tokenHash: hashOf(token),
      person,
      csrf: randomBytes(24).toString('base64url'),
      createdAt: new Date(now).toISOString(),
      expiresAt: new Date(now + DAYS * DAY_MS).toISOString(),
    };
    await this.database.writer.transaction(async (manager) => {
      await manager
        .createQueryBuilder()
        .delete()
        .from('session')
        .where('expiresAt <= :now', { now: row.createdAt })
        .execute();
      await manager.insert('session', row);
    });
    return { token, maxAgeMs: DAYS * DAY_MS };
  }

  /** The person behind a token; undefined when the session has ended. */
  async find(token: string): Promise<Signed | undefined> {
    const row = await this.database.reading.manager.findOneBy<SessionRow>('session', {
      tokenHash: hashOf(token),
    });
    if (!row || row.expiresAt <= this.clock.now()) return undefined;
    const actor = await this.organisation.actor(row.person);
    return actor && { actor, csrf: row.csrf };
  }

  async end(token: string): Promise<void> {
    await this.database.writer.transaction((manager) =>
      manager.delete('session', { tokenHash: hashOf(token) }),
    );
  }
}
