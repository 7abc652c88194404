import { refuseCircle } from '../../kernel/records/refuse-circle';
import { type RecordHooks } from '../../kernel/records/record-hooks';

/** What writing an account means: no account stands above itself. */
export const accountHooks: RecordHooks = {
  object: 'account',
  beforeWrite: (unit, next, before) => refuseCircle(unit, 'account', 'parent', next, before),
};
