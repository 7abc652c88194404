import { inheritLinks } from '../../kernel/records/inherited-links';
import { type RecordHooks } from '../../kernel/records/record-hooks';

/** What planning an activity means. */
export const activityHooks: RecordHooks = { object: 'activity', beforeWrite: inheritLinks };
