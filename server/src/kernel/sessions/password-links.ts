import { Inject, Injectable, Logger } from '@nestjs/common';
import { IsNull, type EntityManager } from 'typeorm';
import {
  type Actor,
  type Colleague,
  type NewPasswordLink,
  type PasswordLink,
  type PasswordLinkPurpose,
} from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { type Config } from '../../platform/config/config';
import { CONFIG } from '../../platform/config/tokens';
import { Database } from '../../platform/database/database';
import { once, type Asked } from '../../platform/database/once';
import { type CredentialRow, type PasswordLinkRow } from '../../platform/database/rows';
import { Events } from '../../platform/events/events';
import { notFound, Problem } from '../../platform/http/problem';
import { Organisation } from '../organisation/organisation';
import { hashPassword, keepPassword, Passwords } from './passwords';
import { hashOf, newSecret } from './secrets';

const HOUR_MS = 3_600_000;
/** How long a link works: whoever is invited may be away, whoever asks for one sits waiting. */
const WORKS_MS: Record<PasswordLinkPurpose, number> = { invitation: 7 * 24 * HOUR_MS, reset: 2 * HOUR_MS };

/** The page that a link leads to. */
const pathOf = (secret: string) => `/password/${secret}`;

/** Links that let somebody set a password: each works once, for a while, and the next one ends it. */
@Injectable()
export class PasswordLinks {
  private readonly logger = new Logger(PasswordLinks.name);

  constructor(
    private readonly database: Database,
    private readonly organisation: Organisation,
    private readonly passwords: Passwords,
    private readonly clock: Clock,
    private readonly events: Events,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  /**
   * Makes a link for somebody: an invitation for whoever has no password yet, else a new way in.
   * @throws Problem `not-found`, or `conflict` for somebody who left and for a request that made one before.
   */
  async make(actor: Actor, id: number, asked?: Asked): Promise<NewPasswordLink> {
    const person = (await this.organisation.people()).find((each) => each.id === id);
    if (!person) throw notFound('This person');
    if (!person.active)
      throw new Problem('conflict', `${person.name} has left. Bring them back first. Nothing was written.`);
    const made = await this.keep(person, actor.personId, asked);
    if (!made)
      throw new Problem(
        'conflict',
        'This link was made already, and it is shown only once. Make another, which ends the first.',
      );
    return made;
  }

  /**
   * Sends a link to whoever has an email address here. Nothing tells whether somebody does.
   * @throws Problem `conflict` where Zawn sends no mail.
   */
  async request(email: string): Promise<void> {
    if (!this.sendsMail)
      throw new Problem(
        'conflict',
        'Zawn sends no mail here. Ask whoever looks after it in your organisation for a link.',
      );
    const people = (await this.organisation.exists()) ? await this.organisation.people() : [];
    const person = people.find((each) => each.active && each.email === email.trim().toLowerCase());
    // Nobody waits for it: the time taken would tell that somebody has this address.
    if (person)
      void this.keep(person, null).catch((error: unknown) =>
        this.logger.error(`A link could not be kept: ${String(error)}`),
      );
  }

  /**
   * What a link says.
   * @throws Problem `not-found` that says whether it was used, has expired, or is none.
   */
  async find(secret: string): Promise<PasswordLink> {
    const { row, person } = await this.usable(secret);
    const { name: organisation } = await this.organisation.settings();
    const { purpose, expiresAt } = row;
    return { purpose, name: person.name, email: person.email, organisation, expiresAt };
  }

  /**
   * Sets the password of whoever a link is for, and ends the link.
   * @returns the person.
   * @throws Problem `not-found` as `find` does; `invalid-input` when the password is easily guessed.
   */
  async use(secret: string, password: string): Promise<Colleague> {
    const { person } = await this.usable(secret);
    await this.passwords.refuseWeak(password, person);
    const hashed = await hashPassword(password);
    await this.database.writer.transaction(async (manager) => {
      // Looked at again where nobody else writes: of two who use it at once, one is second.
      const { row } = await this.usable(secret, manager);
      await manager.update('passwordLink', row.tokenHash, { usedAt: this.clock.now() });
      await keepPassword(manager, person.id, hashed);
    });
    this.events.end(person.id);
    this.events.tell(new Set(['person']));
    return person;
  }

  private get sendsMail(): boolean {
    return this.config.smtp !== undefined || this.config.mail !== undefined;
  }

  /** Keeps a new link; undefined for a request that was answered before. */
  private async keep(
    person: Colleague,
    createdBy: number | null,
    asked?: Asked,
  ): Promise<NewPasswordLink | undefined> {
    const secret = newSecret();
    const at = this.clock.now();
    const { name: organisation } = await this.organisation.settings();
    let made: NewPasswordLink | undefined;
    await this.database.writer.transaction((manager) =>
      once(manager, asked, at, async () => {
        const has = await manager.existsBy<CredentialRow>('credential', { person: person.id });
        const purpose = has ? 'reset' : 'invitation';
        const expiresAt = new Date(Date.parse(at) + WORKS_MS[purpose]).toISOString();
        const row: PasswordLinkRow = {
          tokenHash: hashOf(secret),
          person: person.id,
          purpose,
          createdBy,
          createdAt: at,
          expiresAt,
          usedAt: null,
        };
        // Asked for by whoever knows the address, a link ends none that a colleague made.
        const ended = { person: person.id, usedAt: IsNull() };
        await manager.delete('passwordLink', createdBy === null ? { ...ended, createdBy: IsNull() } : ended);
        await manager.insert('passwordLink', row);
        if (this.sendsMail)
          await manager.insert('mailCopy', {
            person: person.id,
            at,
            path: pathOf(secret),
            tries: 0,
            ...wordingOf(purpose, person, organisation),
          });
        const address = this.config.address + pathOf(secret);
        made = { purpose, address, expiresAt, isMailed: this.sendsMail };
      }),
    );
    if (made?.isMailed) this.events.tell(new Set(['notice']));
    return made;
  }

  private async usable(
    secret: string,
    manager: EntityManager = this.database.reading.manager,
  ): Promise<{ row: PasswordLinkRow; person: Colleague }> {
    const row = await manager.findOneBy<PasswordLinkRow>('passwordLink', { tokenHash: hashOf(secret) });
    const people = row ? await this.organisation.people() : [];
    const person = people.find(({ id, active }) => id === row?.person && active);
    if (!row || !person)
      throw new Problem(
        'not-found',
        'This link does not work, or a newer one took its place. Ask for another.',
      );
    if (row.usedAt !== null)
      throw new Problem('not-found', 'This link was used already. Sign in with the password that was set.');
    if (row.expiresAt <= this.clock.now())
      throw new Problem('not-found', 'This link has expired. Ask for another.');
    return { row, person };
  }
}

/** The email that brings a link. */
function wordingOf(
  purpose: PasswordLinkPurpose,
  { name }: Colleague,
  organisation: string,
): { subject: string; text: string } {
  return purpose === 'invitation'
    ? {
        subject: `Your way into Zawn at ${organisation}`,
        text: `Hello ${name},\n\n${organisation} works with Zawn and has made a place for you. Choose a password behind this link; it works once, for seven days.`,
      }
    : {
        subject: 'A new password for Zawn',
        text: `Hello ${name},\n\nbehind this link you can set a new password. It works once, for two hours. If you did not ask for it, leave it be: nothing changes.`,
      };
}
