import { createRequire } from 'node:module';
import { join } from 'node:path';
import { BUNDLE } from './compiled';

/** Starts the server from its bundle, with what was compiled of it before. */
createRequire(__filename)(join(BUNDLE, 'main.js'));
