import { createHash } from 'node:crypto';
import {
  createReadStream,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { stat, symlink } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { create, extract } from 'tar';
import { StartError } from '../../platform/config/config';
import { identify, inspect } from '../../platform/database/snapshot';

const MANIFEST = 'manifest.json';
const DATABASE = 'zawn.sqlite';
const FILES = 'files';
/** What an archive holds, and nothing else is taken out of one. */
const PARTS = /^(manifest\.json|zawn\.sqlite|files(\/([\da-f]{2}(\/[\da-f]{64})?)?)?)$/;

/** What an archive says of itself. */
export interface Manifest {
  format: 'zawn backup';
  version: 1;
  /** The version of Zawn that made it. */
  madeBy: string;
  at: string;
  organisation: string;
  database: { bytes: number; sha256: string };
  files: number;
}

/** SHA-256 of a file in hex. */
export async function fingerprint(file: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(file), hash);
  return hash.digest('hex');
}

/** The fingerprints of the files kept in a folder, by their names. */
export const namesIn = (folder: string): string[] =>
  existsSync(folder)
    ? readdirSync(folder)
        .filter((name) => /^[\da-f]{2}$/.test(name))
        .flatMap((name) => readdirSync(join(folder, name)))
    : [];

/**
 * Packs a database and the files beside it into one archive.
 * @param staging an empty folder for what is packed.
 */
export async function pack(
  staging: string,
  database: string,
  files: string,
  to: string,
  manifest: Pick<Manifest, 'madeBy' | 'at' | 'organisation'>,
): Promise<Manifest> {
  const { size: bytes } = await stat(database);
  const whole: Manifest = {
    format: 'zawn backup',
    version: 1,
    ...manifest,
    database: { bytes, sha256: await fingerprint(database) },
    files: namesIn(files).length,
  };
  writeFileSync(join(staging, MANIFEST), `${JSON.stringify(whole, null, 2)}\n`);
  const parts = [MANIFEST, DATABASE];
  if (existsSync(files)) {
    await symlink(files, join(staging, FILES));
    parts.push(FILES);
  }
  const isPart = (path: string) => PARTS.test(path.replace(/\/$/, ''));
  await create(
    { file: to, cwd: staging, gzip: { level: 3 }, follow: true, portable: true, filter: isPart },
    parts,
  );
  return whole;
}

/**
 * Takes an archive apart into an empty folder and looks at every part of it.
 * @returns what it says of itself.
 * @throws StartError with one line that says why it cannot be used.
 */
export async function unpack(archive: string, into: string): Promise<Manifest> {
  if (!existsSync(archive)) throw new StartError(`There is no file ${archive}.`);
  mkdirSync(into, { recursive: true });
  const foreign: string[] = [];
  try {
    await extract({
      file: archive,
      cwd: into,
      strict: true,
      filter: (path, entry) => {
        const isKnown =
          PARTS.test(path.replace(/\/$/, '')) && 'type' in entry && /File|Directory/.test(entry.type);
        if (!isKnown) foreign.push(path);
        return isKnown;
      },
    });
  } catch (error) {
    throw new StartError(`${archive} is damaged or no backup of Zawn’s (${(error as Error).message}).`);
  }
  if (foreign.length > 0) throw new StartError(`${archive} is no backup of Zawn’s: it holds ${foreign[0]}.`);
  const manifest = readManifest(archive, join(into, MANIFEST));
  const database = join(into, DATABASE);
  if (!existsSync(database)) throw new StartError(`${archive} is damaged: its database is missing.`);
  if ((await fingerprint(database)) !== manifest.database.sha256)
    throw new StartError(`${archive} is damaged: its database is not the one that was kept.`);
  const faults = inspect(database);
  if (faults.pages.length > 0)
    throw new StartError(`${archive} is damaged: ${faults.pages[0]} in its database.`);
  const { newer, files } = identify(database);
  if (newer.length > 0)
    throw new StartError(
      `${archive} was made by a newer version of Zawn (${manifest.madeBy}). Use that one.`,
    );
  await checkFiles(archive, join(into, FILES), files);
  rmSync(join(into, MANIFEST));
  return manifest;
}

function readManifest(archive: string, file: string): Manifest {
  let manifest: Partial<Manifest>;
  try {
    manifest = JSON.parse(readFileSync(file, 'utf8')) as Partial<Manifest>;
  } catch {
    throw new StartError(`${archive} is no backup of Zawn’s: it does not say what it is.`);
  }
  if (manifest.format !== 'zawn backup' || typeof manifest.database?.sha256 !== 'string')
    throw new StartError(`${archive} is no backup of Zawn’s.`);
  if (manifest.version !== 1)
    throw new StartError(
      `${archive} was made by a newer version of Zawn (${manifest.madeBy}). Use that one.`,
    );
  return manifest as Manifest;
}

/** Every file must be the one it is named for, and every file that a record names must be there. */
async function checkFiles(archive: string, folder: string, named: readonly string[]): Promise<void> {
  const there = new Set(namesIn(folder));
  const missing = named.filter((name) => !there.has(name));
  if (missing.length > 0)
    throw new StartError(`${archive} is damaged: ${missing.length} of the files in it are missing.`);
  for (const name of there)
    if ((await fingerprint(join(folder, name.slice(0, 2), name))) !== name)
      throw new StartError(`${archive} is damaged: the file ${name} is not what it was.`);
}
