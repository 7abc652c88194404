import { readFileSync } from 'node:fs';
import { join } from 'node:path';

interface Manifest {
  version: string;
}

const manifest = JSON.parse(readFileSync(join(__dirname, '..', 'package.json'), 'utf8')) as Manifest;

/** The version of Zawn that is running. */
export const version = manifest.version;
