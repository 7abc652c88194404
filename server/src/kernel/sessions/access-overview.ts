import { Injectable } from '@nestjs/common';
import { type PersonAccess } from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import {
  type CredentialRow,
  type PasswordLinkRow,
  type SecondStepRow,
  type SessionRow,
  type SignInRow,
} from '../../platform/database/rows';
import { Organisation } from '../organisation/organisation';

/** How everybody gets in, for whoever looks after people. */
@Injectable()
export class AccessOverview {
  constructor(
    private readonly database: Database,
    private readonly organisation: Organisation,
    private readonly clock: Clock,
  ) {}

  async all(): Promise<PersonAccess[]> {
    const { manager } = this.database.reading;
    const now = this.clock.now();
    const [people, credentials, steps, links, sessions, latest] = await Promise.all([
      this.organisation.people(),
      manager.find<CredentialRow>('credential'),
      manager.find<SecondStepRow>('secondStep'),
      manager.find<PasswordLinkRow>('passwordLink'),
      manager.find<SessionRow>('session'),
      manager
        .createQueryBuilder<SignInRow>('signIn', 's')
        .select('s.person', 'person')
        .addSelect('MAX(s.at)', 'at')
        .where('s.isIn = :isIn', { isIn: true })
        .groupBy('s.person')
        .getRawMany<{ person: number; at: string }>(),
    ]);
    const withPassword = new Set(credentials.map(({ person }) => person));
    const withStep = new Set(steps.filter(({ confirmedAt }) => confirmedAt).map(({ person }) => person));
    const last = new Map(latest.map(({ person, at }) => [person, at]));
    return people.map(({ id }) => ({
      person: id,
      hasPassword: withPassword.has(id),
      hasSecondStep: withStep.has(id),
      linkUntil:
        links
          .filter(({ person, usedAt }) => person === id && usedAt === null)
          .map(({ expiresAt }) => expiresAt)
          .sort()
          .at(-1) ?? null,
      lastSignInAt: last.get(id) ?? null,
      sessions: sessions.filter(({ person, expiresAt }) => person === id && expiresAt > now).length,
    }));
  }
}
