import { type RecordHooks } from '../../kernel/records/record-hooks';
import { completeSharing } from '../../kernel/views/view-hooks';

/** What writing a call list means: it belongs to who makes it. */
export const callListHooks: RecordHooks = {
  object: 'callList',
  beforeWrite(unit, next, before) {
    completeSharing(unit, next, before);
    return Promise.resolve();
  },
};
