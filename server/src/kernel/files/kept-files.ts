import { createHash, randomUUID } from 'node:crypto';
import { createWriteStream, existsSync, mkdirSync, readdirSync, rmSync } from 'node:fs';
import { open, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Inject, Injectable, type OnApplicationBootstrap } from '@nestjs/common';
import { HEAD_BYTES } from '@zawn/core';
import { CONFIG } from '../../platform/config/tokens';
import { type Config } from '../../platform/config/config';

const HASH = /^[\da-f]{64}$/;

/** A file as it was kept. */
export interface Kept {
  /** SHA-256 of its content in hex. */
  hash: string;
  bytes: number;
  /** Its first bytes, by which one sees what it is. */
  head: Uint8Array;
}

/** What may refuse a file while it comes in. */
interface Checks {
  onTheWay?: (bytesSoFar: number) => void;
  whole?: (kept: Kept) => void;
}

/** How files end that have not come in whole yet. */
export const UNFINISHED = '.part';

/** Removes what a stop left half-way in a folder that nobody writes to yet. */
export function removeUnfinished(folder: string): void {
  if (!existsSync(folder)) return;
  for (const name of readdirSync(folder))
    if (name.endsWith(UNFINISHED)) rmSync(join(folder, name), { force: true });
}

/** Files kept beside the database by the fingerprint of their content: the same file twice is kept once. */
@Injectable()
export class KeptFiles implements OnApplicationBootstrap {
  private readonly folder: string;

  constructor(@Inject(CONFIG) config: Config) {
    this.folder = join(config.dataFolder, 'files');
  }

  /** What a stop left half-way has no name yet, and nobody asks for it again. */
  onApplicationBootstrap(): void {
    removeUnfinished(this.folder);
  }

  /** Keeps a file that is in memory already. @returns its fingerprint. */
  async keep(content: Uint8Array): Promise<string> {
    return (await this.keepStream(Readable.from([content]))).hash;
  }

  /**
   * Keeps what streams in.
   * @param checks look at it on the way and when it has come in whole, and may throw: nothing of it stays then.
   */
  async keepStream(incoming: Readable, checks: Checks = {}): Promise<Kept> {
    mkdirSync(this.folder, { recursive: true });
    // Written whole before it gets its name, so that a stop on the way leaves no half file under it.
    const unfinished = join(this.folder, `${randomUUID()}${UNFINISHED}`);
    const fingerprint = createHash('sha256');
    let bytes = 0;
    let head = Buffer.alloc(0);
    const looking = new Transform({
      transform(chunk: Buffer, _, done) {
        bytes += chunk.length;
        if (head.length < HEAD_BYTES) head = Buffer.concat([head, chunk]).subarray(0, HEAD_BYTES);
        fingerprint.update(chunk);
        try {
          checks.onTheWay?.(bytes);
          done(null, chunk);
        } catch (error) {
          done(error as Error);
        }
      },
    });
    try {
      await pipeline(incoming, looking, createWriteStream(unfinished, { flags: 'wx' }));
      const kept = { hash: fingerprint.digest('hex'), bytes, head };
      checks.whole?.(kept);
      const path = this.pathOf(kept.hash);
      mkdirSync(join(path, '..'), { recursive: true });
      await rename(unfinished, path);
      return kept;
    } catch (error) {
      await rm(unfinished, { force: true });
      throw error;
    }
  }

  /** The first bytes of a file, by which one sees what it is. */
  async head(hash: string): Promise<Uint8Array> {
    const file = await open(this.pathOf(hash));
    try {
      const { buffer, bytesRead } = await file.read(Buffer.alloc(HEAD_BYTES), 0, HEAD_BYTES, 0);
      return buffer.subarray(0, bytesRead);
    } finally {
      await file.close();
    }
  }

  /** Where a file is kept. */
  pathOf(hash: string): string {
    if (!HASH.test(hash)) throw new Error('not a fingerprint');
    return join(this.folder, hash.slice(0, 2), hash);
  }
}
