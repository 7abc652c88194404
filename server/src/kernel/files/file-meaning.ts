import { inheritLinks } from '../../features/activities/activity-meaning';
import { type Meaning } from '../records/meaning';

/** What putting a file on a record means: what that record hangs on shows it too. */
export const fileMeaning: Meaning = { object: 'file', prepare: inheritLinks };
