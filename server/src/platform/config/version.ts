import { createRequire } from 'node:module';

/** The version of Zawn that is running. */
export const { version } = createRequire(__filename)('@zawn/server/package.json') as { version: string };
