import { createRequire } from 'node:module';

const load = createRequire(__filename);

/**
 * A package that is loaded when somebody first needs it. A dynamic import would be lost: the server's bundle is started
 * with what was compiled of it before, which cannot import.
 */
export const lazyPackage = <T>(name: string): T => load(name) as T;

/** The folder of a package. */
export const packageFolder = (name: string): string =>
  load.resolve(`${name}/package.json`).replace(/[\\/]package\.json$/, '');
