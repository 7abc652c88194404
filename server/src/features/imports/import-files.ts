import { createHash, randomUUID } from 'node:crypto';
import { createWriteStream, mkdirSync } from 'node:fs';
import { readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Inject, Injectable, type OnApplicationBootstrap } from '@nestjs/common';
import { IsNull, Not } from 'typeorm';
import { type Actor } from '@zawn/core';
import { LIMITS } from '@zawn/core/imports';
import { CONFIG } from '../../platform/config/tokens';
import { type Config } from '../../platform/config/config';
import { Database } from '../../platform/database/database';
import { removeUnfinished, UNFINISHED } from '../../kernel/files/kept-files';
import { type ImportRow } from '../../platform/database/rows';
import { notFound, Problem } from '../../platform/http/problem';

const A_DAY_MS = 86_400_000;

/** The files handed in for imports, beside the database. A name says whose the file is and nothing else. */
@Injectable()
export class ImportFiles implements OnApplicationBootstrap {
  private readonly folder: string;

  constructor(
    @Inject(CONFIG) config: Config,
    private readonly database: Database,
  ) {
    this.folder = join(config.dataFolder, 'imports');
  }

  /** Files that were only looked at are not kept beyond a day. */
  async onApplicationBootstrap(): Promise<void> {
    mkdirSync(this.folder, { recursive: true });
    removeUnfinished(this.folder);
    const rows = await this.database.reading
      .getRepository<ImportRow>('import')
      .findBy({ file: Not(IsNull()) });
    const kept = new Set(rows.map(({ file }) => file));
    for (const name of await readdir(this.folder)) {
      const path = join(this.folder, name);
      const { mtimeMs } = await stat(path);
      if (!kept.has(name) && Date.now() - mtimeMs > A_DAY_MS) await rm(path, { force: true });
    }
  }

  /**
   * Keeps what comes in. Returns its name, its size and the SHA-256 of its content.
   * @throws Problem `too-large` beyond the limit; nothing of it stays then.
   */
  async keep(actor: Actor, incoming: Readable): Promise<{ file: string; bytes: number; hash: string }> {
    const file = `${actor.personId}-${randomUUID()}`;
    const path = join(this.folder, file);
    let bytes = 0;
    const hash = createHash('sha256');
    const counted = new Transform({
      transform(chunk: Buffer, _, done) {
        bytes += chunk.length;
        hash.update(chunk);
        if (bytes > LIMITS.bytes) done(tooLarge());
        else done(null, chunk);
      },
    });
    try {
      await pipeline(incoming, counted, createWriteStream(path + UNFINISHED, { flags: 'wx' }));
      await rename(path + UNFINISHED, path);
    } catch (error) {
      await rm(path + UNFINISHED, { force: true });
      throw error;
    }
    return { file, bytes, hash: hash.digest('hex') };
  }

  /** Lets go of a file that nothing came of. */
  async forget(actor: Actor, file: string): Promise<void> {
    await rm(this.pathOf(actor, file), { force: true });
  }

  /**
   * Where a file stands.
   * @throws Problem `not-found` for one that is not the person’s own.
   */
  pathOf(actor: Actor, file: string): string {
    if (!/^\d+-[\da-f-]{36}$/.test(file) || !file.startsWith(`${actor.personId}-`))
      throw notFound('This file');
    return join(this.folder, file);
  }
}

export const tooLarge = () =>
  new Problem(
    'too-large',
    'The file is larger than 50 MB. Split it and import the parts one after the other. Nothing was kept.',
  );
