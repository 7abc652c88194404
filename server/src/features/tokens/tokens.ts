import { randomBytes } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { IsNull } from 'typeorm';
import { type Actor, type ApiToken, type NewApiToken, type TokenScope } from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { once, type Asked } from '../../platform/database/once';
import { storageTrouble } from '../../platform/database/storage-trouble';
import { type TokenRow } from '../../platform/database/rows';
import { notFound, Problem } from '../../platform/http/problem';
import { Bearers, type Bearer } from '../../kernel/sessions/bearers';
import { hashOf } from '../../kernel/sessions/secrets';
import { Organisation } from '../../kernel/organisation/organisation';

/** What a token begins with, so that one that leaks is recognised for what it is. */
const PREFIX = 'zawn_';
const MOST = 20;
/** When a token was last used is kept this exactly, not with every call. */
const EXACT_MS = 60_000;

/** Personal tokens: shown once, kept as hashes, scoped, and ended by their person at any time. */
@Injectable()
export class Tokens extends Bearers {
  constructor(
    private readonly database: Database,
    private readonly organisation: Organisation,
    private readonly clock: Clock,
  ) {
    super();
  }

  /** The person’s own tokens, newest first, without their secrets. */
  async of({ personId: person }: Actor): Promise<ApiToken[]> {
    const rows = await this.rows.find({ where: { person }, order: { id: 'DESC' } });
    return rows.map(shown);
  }

  /**
   * Makes a token. Its secret is in the answer and nowhere else.
   * @throws Problem `conflict` for a request that made one before: nobody knows that secret any more.
   */
  async make(
    { personId: person }: Actor,
    name: string,
    scope: TokenScope,
    asked?: Asked,
  ): Promise<NewApiToken> {
    const secret = PREFIX + randomBytes(30).toString('base64url');
    const row: Omit<TokenRow, 'id'> = {
      person,
      name,
      scope,
      hash: hashOf(secret),
      ending: secret.slice(-4),
      createdAt: this.clock.now(),
      lastUsedAt: null,
      revokedAt: null,
    };
    let isMade = false;
    const id = await this.database.writer.transaction((manager) =>
      once(manager, asked, row.createdAt, async () => {
        if ((await manager.countBy<TokenRow>('apiToken', { person, revokedAt: IsNull() })) >= MOST)
          throw new Problem('conflict', `You have ${MOST} tokens already. End one that is no longer used.`);
        isMade = true;
        return Number((await manager.insert('apiToken', row)).identifiers[0].id);
      }),
    );
    if (!isMade)
      throw new Problem(
        'conflict',
        'This token was made already, and its secret is shown only once. End it and make another.',
      );
    return { ...shown({ ...row, id }), secret };
  }

  /** Ends one of the person’s own tokens. */
  async revoke({ personId: person }: Actor, id: number, asked?: Asked): Promise<void> {
    const row = await this.rows.findOneBy({ id, person });
    if (!row) throw notFound('This token');
    const at = this.clock.now();
    await this.database.writer.transaction((manager) =>
      once(manager, asked, at, async () => {
        await manager.update('apiToken', { id, revokedAt: IsNull() }, { revokedAt: at });
      }),
    );
  }

  /** Who stands behind a secret; undefined when it is none, was ended, or its person is no longer here. */
  async find(secret: string): Promise<Bearer | undefined> {
    if (!secret.startsWith(PREFIX)) return undefined;
    const row = await this.rows.findOneBy({ hash: hashOf(secret), revokedAt: IsNull() });
    const actor = row && (await this.organisation.actor(row.person));
    if (!row || !actor) return undefined;
    const now = this.clock.now();
    if (row.lastUsedAt === null || Date.parse(now) - Date.parse(row.lastUsedAt) > EXACT_MS)
      await this.noteUse(row.id, now);
    return { actor, scope: row.scope };
  }

  /** When a token was last used is nice to know, and no reason to refuse a question on a full disk. */
  private async noteUse(id: number, lastUsedAt: string): Promise<void> {
    await this.database.writer
      .transaction((manager) => manager.update('apiToken', id, { lastUsedAt }))
      .catch((error: unknown) => {
        if (!storageTrouble(error)) throw error;
      });
  }

  private get rows() {
    return this.database.reading.getRepository<TokenRow>('apiToken');
  }
}

const shown = ({ person: _, hash: __, ...token }: TokenRow): ApiToken => token;
