import { existsSync, mkdirSync, renameSync, rmSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { StartError } from '../../platform/config/config';
import { version } from '../../platform/config/version';
import { identify, snapshot } from '../../platform/database/snapshot';
import { pack, unpack, type Manifest } from './archive';

/**
 * Keeps a data folder, which may be in use, in one archive, and opens that to see that it is whole.
 * @param at the instant, UTC ISO 8601.
 * @throws StartError with one line when there is nothing to keep, the archive is there already or did not come out whole.
 */
export async function backUp(dataFolder: string, to: string, at: string): Promise<Manifest> {
  const archive = resolve(to);
  const database = join(dataFolder, 'zawn.sqlite');
  if (!existsSync(database)) throw new StartError(`There is no database of Zawn’s in ${dataFolder}.`);
  if (existsSync(archive)) throw new StartError(`${archive} is there already. Choose another name.`);
  mkdirSync(dirname(archive), { recursive: true });
  const working = `${archive}.part`;
  rmSync(working, { recursive: true, force: true });
  const [staging, opened] = [join(working, 'staging'), join(working, 'opened')];
  mkdirSync(staging, { recursive: true });
  try {
    const copy = join(staging, 'zawn.sqlite');
    await snapshot(database, copy);
    const { organisation } = identify(copy);
    const unproven = join(working, 'archive');
    await pack(staging, copy, join(dataFolder, 'files'), unproven, {
      madeBy: version,
      at,
      organisation: organisation ?? '',
    });
    const manifest = await unpack(unproven, opened);
    renameSync(unproven, archive);
    return manifest;
  } finally {
    rmSync(working, { recursive: true, force: true });
  }
}
