import { subjectKeys } from '@zawn/core';
import { invalidInput, Problem } from '../../platform/http/problem';
import { type RecordHooks } from '../../kernel/records/record-hooks';

/** What sharing a record means: one record, with one person or one team, from a day that has not passed. */
export const shareHooks: RecordHooks = {
  object: 'share',
  async beforeWrite(unit, next, before) {
    const share = { ...before, ...next };
    const subjects = subjectKeys.filter((subject) => (share[subject] ?? null) !== null);
    if (subjects.length !== 1)
      throw invalidInput([
        { field: 'deal', message: 'One lead, contact, account or deal is shared at a time' },
      ]);
    const { person = null, team = null } = share;
    if ((person === null) === (team === null))
      throw invalidInput([
        { field: 'person', message: 'A record is shared with one person or with one team' },
      ]);
    const [subject] = subjects;
    const id = Number(share[subject]);
    const same = await unit.manager.findBy<{ id: number; deletedAt: string | null }>('share', {
      [subject]: id,
      ...(person === null ? { team } : { person }),
    } as object);
    if (same.some((other) => other.deletedAt === null && other.id !== before?.id))
      throw invalidInput([
        {
          field: person === null ? 'team' : 'person',
          message: 'It is shared with them already. Change that share',
        },
      ]);
    if (before || unit.undoes !== undefined) return;
    if (!(await unit.reaches('edit', subject, id)))
      throw new Problem('not-allowed', 'Only who may change a record can share it. Nothing was shared.');
    // Whoever has a record only because it was shared does not hand it on.
    if (!(await unit.reaches('edit', subject, id, 'roles')))
      throw invalidInput([
        { field: subject, message: 'It is shared with you. Whoever shared it can share it with others' },
      ]);
  },
};
