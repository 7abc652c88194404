import { inheritLinks } from '../records/inherited-links';
import { type RecordHooks } from '../records/record-hooks';

/** What putting a file on a record means: what that record hangs on shows it too. */
export const fileHooks: RecordHooks = { object: 'file', beforeWrite: inheritLinks };
