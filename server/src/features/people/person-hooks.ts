import { IsNull, In, type EntityManager } from 'typeorm';
import { rolesThatMay, type AnyRecord, type Role } from '@zawn/core';
import { type CredentialRow } from '../../platform/database/rows';
import { invalidInput, Problem } from '../../platform/http/problem';
import { type RecordHooks } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';

type Person = AnyRecord & { deletedAt: string | null };

/** Those who can sign in: here, and with a password. */
async function whoCanSignIn(manager: EntityManager): Promise<Person[]> {
  const credentials = await manager.find<CredentialRow>('credential');
  return manager.findBy<Person>('person', {
    id: In(credentials.map(({ person }) => person)),
    active: true,
    deletedAt: IsNull(),
  });
}

const maySetUp = (role: unknown) => rolesThatMay('setUp').includes(role as Role);

/** Somebody must be left who can sign in and set everything up, or nobody could ever mend it. */
async function refuseLast(unit: Unit, person: AnyRecord): Promise<void> {
  const all = await whoCanSignIn(unit.manager);
  const others = all.filter(({ id }) => id !== person.id);
  if (others.length === all.length) return;
  if (others.some(({ role }) => maySetUp(role))) return;
  throw new Problem(
    'conflict',
    others.length === 0
      ? `${String(person.name)} is the only one who can sign in. Nothing was changed.`
      : `${String(person.name)} is the last in operations who can sign in. Make somebody else that first. Nothing was changed.`,
  );
}

/** Whoever leaves is out at once, and a return brings back neither sessions nor tokens nor links. */
async function signOut(unit: Unit, person: number): Promise<void> {
  await unit.manager.delete('session', { person });
  await unit.manager.delete('passwordLink', { person, usedAt: IsNull() });
  await unit.manager.update('apiToken', { person, revokedAt: IsNull() }, { revokedAt: unit.at });
  unit.leaving.add(person);
}

/** What writing a person means: an address is one person's, and somebody can always sign in. */
export const personHooks: RecordHooks = {
  object: 'person',
  async beforeWrite(unit, next, before) {
    if (typeof next.email === 'string') {
      const taken = await unit.manager.findOneBy<Person>('person', { email: next.email });
      if (taken && taken.id !== before?.id)
        throw invalidInput([
          {
            field: 'email',
            message: `Email: ${String(taken.name)} has this address already${taken.deletedAt === null ? '' : ' and is in the bin'}`,
          },
        ]);
    }
    const losesRole = next.role !== undefined && !maySetUp(next.role) && maySetUp(before?.role);
    const isLeaving = next.active === false && before?.active === true;
    if (before && (losesRole || isLeaving)) await refuseLast(unit, before);
  },
  async afterWrite(unit, after, before) {
    if (before?.active === true && after.active === false) await signOut(unit, after.id);
  },
  async afterRemove(unit, person) {
    await refuseLast(unit, person);
    await signOut(unit, person.id);
  },
};
