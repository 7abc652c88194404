import { Problem } from '../http/problem';

/** Something keeps the database from being read or written. */
export type StorageTrouble = 'full' | 'unavailable' | 'damaged';

const FULL = /^(SQLITE_FULL|ENOSPC|EDQUOT)$/;
const DAMAGED = /^SQLITE_(CORRUPT|NOTADB)/;
const UNAVAILABLE =
  /^(SQLITE_(IOERR|BUSY|LOCKED|READONLY|CANTOPEN|NOMEM|PROTOCOL|PERM|ABORT)|EIO$|EROFS$|EMFILE$|EACCES$)/;

/** The engine's or the system's code behind an error, however it was wrapped; empty when there is none. */
export function codeOf(error: unknown): string {
  for (let at = error, depth = 0; typeof at === 'object' && at !== null && depth < 4; depth += 1) {
    const { code, driverError, cause } = at as { code?: unknown; driverError?: unknown; cause?: unknown };
    if (typeof code === 'string') return code;
    at = driverError ?? cause;
  }
  return '';
}

/** Whether an error says that storage failed rather than that the work was wrong; undefined when it does not. */
export function storageTrouble(error: unknown): StorageTrouble | undefined {
  const code = codeOf(error);
  if (FULL.test(code)) return 'full';
  if (DAMAGED.test(code)) return 'damaged';
  return UNAVAILABLE.test(code) ? 'unavailable' : undefined;
}

/** What is said of it: RFC 9110 calls the first 507, the others 503. */
export const troubleProblems: Record<StorageTrouble, () => Problem> = {
  full: () =>
    new Problem('storage-full', 'The disk is full. Nothing was written. Make room, then try again.'),
  unavailable: () =>
    new Problem('unavailable', 'The database cannot be used just now. Nothing was written. Try again.'),
  damaged: () =>
    new Problem('unavailable', 'The database is damaged. Nothing was written. Restore the last backup.'),
};

/** The engine took a whole transaction back although nothing in it complained. */
export const undoneByEngine = () =>
  Object.assign(new Error('The engine took the transaction back'), { code: 'SQLITE_ABORT' });
