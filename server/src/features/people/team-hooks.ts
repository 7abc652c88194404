import { refuseCircle } from '../../kernel/records/refuse-circle';
import { type RecordHooks } from '../../kernel/records/record-hooks';

/** What writing a team means: no team is part of itself. */
export const teamHooks: RecordHooks = {
  object: 'team',
  beforeWrite: (unit, next, before) => refuseCircle(unit, 'team', 'parent', next, before),
};
