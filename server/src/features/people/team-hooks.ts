import { refuseCircle } from '../../kernel/records/refuse-circle';
import { type RecordHooks } from '../../kernel/records/record-hooks';
import { refuseNobodyLeft } from './somebody-left';

/** What writing a team means: no team is part of itself. */
export const teamHooks: RecordHooks = {
  object: 'team',
  beforeWrite: (unit, next, before) => refuseCircle(unit, 'team', 'parent', next, before),
  // A role can be given to a team, and so to those below it.
  async afterWrite(unit, after, before) {
    if (before && before.parent !== after.parent) await refuseNobodyLeft(unit, 'After this change');
  },
};
