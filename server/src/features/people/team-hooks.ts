import { IsNull } from 'typeorm';
import { type AnyRecord } from '@zawn/core';
import { invalidInput } from '../../platform/http/problem';
import { checkHours } from '../../kernel/organisation/check-hours';
import { refuseCircle } from '../../kernel/records/refuse-circle';
import { type RecordHooks } from '../../kernel/records/record-hooks';
import { refuseNobodyLeft } from './somebody-left';

/** What writing a team means: no team is part of itself, and its hours end after they begin. */
export const teamHooks: RecordHooks = {
  object: 'team',
  async beforeWrite(unit, next, before) {
    if (unit.undoes === undefined) checkHours(next, before);
    await refuseCircle(unit, 'team', 'parent', next, before);
  },
  // A role can be given to a team, and so to those below it.
  async afterWrite(unit, after, before) {
    if (before && before.parent !== after.parent) await refuseNobodyLeft(unit, 'After this change');
  },
};

/** What being in a further team means: it is another than one's own, and once. */
export const teamMemberHooks: RecordHooks = {
  object: 'teamMember',
  async beforeWrite(unit, next, before) {
    const { person, team } = { ...before, ...next };
    const own = (await unit.everyones('person', [Number(person)])).get(Number(person));
    const same = await unit.manager.findOneBy<AnyRecord>('teamMember', {
      person: Number(person),
      team: Number(team),
      deletedAt: IsNull(),
    });
    if (own?.team === team || (same && same.id !== before?.id))
      throw invalidInput([{ field: 'team', message: 'Team: they are in it already' }]);
  },
  async afterWrite(unit, _, before) {
    if (before) await refuseNobodyLeft(unit, 'After this change');
  },
  afterRemove: (unit) => refuseNobodyLeft(unit, 'Without this team'),
};
