import { createHash, randomUUID } from 'node:crypto';
import { existsSync, mkdirSync } from 'node:fs';
import { rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Inject, Injectable } from '@nestjs/common';
import { CONFIG } from '../app.tokens';
import { type Config } from '../config';

const HASH = /^[\da-f]{64}$/;

/** Files kept beside the database by the fingerprint of their content: the same file twice is kept once. */
@Injectable()
export class KeptFiles {
  private readonly folder: string;

  constructor(@Inject(CONFIG) config: Config) {
    this.folder = join(config.dataFolder, 'files');
  }

  /** Keeps a file. @returns its fingerprint: SHA-256 in hex. */
  async keep(content: Uint8Array): Promise<string> {
    const hash = createHash('sha256').update(content).digest('hex');
    const path = this.pathOf(hash);
    if (existsSync(path)) return hash;
    mkdirSync(join(path, '..'), { recursive: true });
    // Written whole before it gets its name, so that a stop on the way leaves no half file under it.
    const unfinished = `${path}.${randomUUID()}.part`;
    await writeFile(unfinished, content);
    await rename(unfinished, path);
    return hash;
  }

  /** Where a file is kept. */
  pathOf(hash: string): string {
    if (!HASH.test(hash)) throw new Error('not a fingerprint');
    return join(this.folder, hash.slice(0, 2), hash);
  }
}
