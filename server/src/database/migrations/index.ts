import { Foundation1763856000000 } from './1763856000000-foundation';

/** Every migration, oldest first. */
export const migrations = [Foundation1763856000000];
