import { randomBytes } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { verify } from '@node-rs/argon2';
import { LessThanOrEqual, Not } from 'typeorm';
import { type Actor, type OwnAccess, type SignInWay } from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { dialect } from '../../platform/database/dialect';
import { Database } from '../../platform/database/database';
import { notFound } from '../../platform/http/problem';
import { type CredentialRow, type SessionRow, type SignInRow } from '../../platform/database/rows';
import { Organisation } from '../organisation/organisation';
import { hashPassword } from './passwords';
import { hashOf, newSecret } from './secrets';

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

/** From where somebody comes: an IP address, and how the browser calls itself. */
export interface Origin {
  address: string;
  browser: string;
}

/** Sign-ins of one's own that are shown. */
const SHOWN = 20;

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

  /**
   * Who an email address and a password belong to.
   * @returns `known` is whoever has the address, `person` only with the right password.
   */
  async identify(email: string, password: string): Promise<{ known?: number; person?: number }> {
    const people = (await this.organisation.exists()) ? await this.organisation.people() : [];
    const person = people.find(
      (colleague) => colleague.active && colleague.email === email.trim().toLowerCase(),
    );
    const credential =
      person &&
      (await this.database.reading.manager.findOneBy<CredentialRow>('credential', { person: person.id }));
    const right = await verify(credential?.hash ?? (await this.decoy), password);
    if (!person) return {};
    return credential && right ? { known: person.id, person: person.id } : { known: person.id };
  }

  /** Starts a session for a person without asking anything. */
  async begin(person: number, how: SignInWay, origin: Origin): Promise<NewSession> {
    const token = newSecret();
    const at = this.clock.now();
    const row: SessionRow = {
      tokenHash: hashOf(token),
      person,
      csrf: randomBytes(24).toString('base64url'),
      createdAt: at,
      expiresAt: new Date(Date.parse(at) + DAYS * DAY_MS).toISOString(),
      ...origin,
    };
    await this.database.writer.transaction(async (manager) => {
      await manager.delete('session', { expiresAt: LessThanOrEqual(at) });
      await manager.insert('session', row);
      await manager.insert('signIn', { person, at, how, isIn: true, ...origin });
    });
    return { token, maxAgeMs: DAYS * DAY_MS };
  }

  /** Keeps a try that did not get in, for the person to see. */
  async noteFailure(person: number, how: SignInWay, origin: Origin): Promise<void> {
    const at = this.clock.now();
    await this.database.writer.transaction((manager) =>
      manager.insert('signIn', { person, at, how, isIn: false, ...origin }),
    );
  }

  /** Where a person is signed in, and what was tried last. */
  async of(person: number, token: string): Promise<Pick<OwnAccess, 'sessions' | 'signIns'>> {
    const { manager } = this.database.reading;
    const now = this.clock.now();
    const sessions = await manager.find<SessionRow>('session', {
      where: { person },
      order: { createdAt: 'DESC' },
    });
    const signIns = await manager.find<SignInRow>('signIn', {
      where: { person },
      order: { id: 'DESC' },
      take: SHOWN,
    });
    return {
      sessions: sessions
        .filter(({ expiresAt }) => expiresAt > now)
        .map(({ tokenHash: id, createdAt: at, address, browser }) => ({
          id,
          at,
          address,
          browser,
          isThis: id === hashOf(token),
        })),
      signIns: signIns.map(({ id: _, person: __, ...signIn }) => signIn),
    };
  }

  /** The person behind a token; undefined when the session has ended. */
  async find(token: string): Promise<Signed | undefined> {
    const { manager } = this.database.reading;
    const row = dialect.firstRow<SessionRow>(manager, 'session', 'tokenHash', hashOf(token));
    if (!row || row.expiresAt <= this.clock.now()) return undefined;
    const actor = await this.organisation.actor(row.person);
    return actor && { actor, csrf: row.csrf };
  }

  async end(token: string): Promise<void> {
    await this.database.writer.transaction((manager) =>
      manager.delete('session', { tokenHash: hashOf(token) }),
    );
  }

  /**
   * Ends one of a person's sessions.
   * @throws Problem `not-found` when it is none of theirs.
   */
  async endOwn(person: number, id: string): Promise<void> {
    const { affected } = await this.database.writer.transaction((manager) =>
      manager.delete('session', { person, tokenHash: id }),
    );
    if (!affected) throw notFound('This session');
  }

  /** Ends all sessions of a person but the one that asks. */
  async endOthers(person: number, token: string): Promise<void> {
    await this.database.writer.transaction((manager) =>
      manager.delete('session', { person, tokenHash: Not(hashOf(token)) }),
    );
  }
}
