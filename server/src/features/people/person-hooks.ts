import { IsNull } from 'typeorm';
import { type AnyRecord } from '@zawn/core';
import { invalidInput } from '../../platform/http/problem';
import { checkHours } from '../../kernel/organisation/check-hours';
import { type RecordHooks } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';
import { refuseNobodyLeft } from './somebody-left';

type Person = AnyRecord & { deletedAt: string | null };

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
    if (unit.undoes === undefined) checkHours(next, before);
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
  },
  async afterWrite(unit, after, before) {
    if (!before) return;
    const isLeaving = before.active === true && after.active === false;
    if (isLeaving || before.role !== after.role || before.team !== after.team)
      await refuseNobodyLeft(unit, isLeaving ? `Without ${String(after.name)}` : 'After this change');
    if (isLeaving) await signOut(unit, after.id);
  },
  async afterRemove(unit, person) {
    await refuseNobodyLeft(unit, `Without ${String(person.name)}`);
    await signOut(unit, person.id);
  },
};
