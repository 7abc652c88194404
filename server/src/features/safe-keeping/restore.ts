import { existsSync, readdirSync, renameSync, rmSync } from 'node:fs';
import { resolve } from 'node:path';
import { LOCK, lockFolder } from '../../platform/database/folder-lock';
import { unpack, type Manifest } from './archive';

/**
 * Puts a backup in the place of a data folder that nobody uses. It is looked at first; what lay in the folder is kept
 * aside.
 * @param at the instant, UTC ISO 8601.
 * @returns what the backup says of itself, and where the old folder is now.
 * @throws StartError with one line, and nothing changed, when the folder is in use or the backup cannot be used.
 */
export async function restore(
  archive: string,
  dataFolder: string,
  at: string,
): Promise<{ manifest: Manifest; aside: string | null }> {
  const folder = resolve(dataFolder);
  const unlock = existsSync(folder) ? lockFolder(folder, 'a restore') : undefined;
  const unpacked = `${folder}.restoring`;
  try {
    rmSync(unpacked, { recursive: true, force: true });
    const manifest = await unpack(resolve(archive), unpacked);
    const isEmpty = !existsSync(folder) || readdirSync(folder).every((name) => name === LOCK);
    const aside = isEmpty ? null : asideOf(folder, at);
    if (aside !== null) renameSync(folder, aside);
    else rmSync(folder, { recursive: true, force: true });
    renameSync(unpacked, folder);
    return { manifest, aside };
  } finally {
    rmSync(unpacked, { recursive: true, force: true });
    unlock?.();
  }
}

/** A name beside the folder that is not taken. */
function asideOf(folder: string, at: string): string {
  const name = `${folder}.before-${at.slice(0, 19).replace(/[-:]/g, '').replace('T', '-')}`;
  let aside = name;
  for (let count = 2; existsSync(aside); count += 1) aside = `${name}-${count}`;
  return aside;
}
