import { createHash, randomBytes } from 'node:crypto';

/** A secret that nobody guesses, fit for an address. */
export const newSecret = () => randomBytes(32).toString('base64url');

/** What is kept of a secret: whoever reads the database cannot use what stands there. */
export const hashOf = (secret: string) => createHash('sha256').update(secret).digest('hex');
