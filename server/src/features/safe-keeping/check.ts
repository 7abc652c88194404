import { existsSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { In, type EntityManager } from 'typeorm';
import { isSearched, placeOf, searchedKinds } from '../../kernel/search/search-index';
import { howMany, objectKeys, objectType, storedFields, type AnyRecord, type ObjectKey } from '@zawn/core';
import { fillIndex } from '../../kernel/search/fill-index';
import { StartError } from '../../platform/config/config';
import { closeDatabase, openDatabase } from '../../platform/database/data-source';
import { dialect } from '../../platform/database/dialect';
import { type ChangeRow, type DayEndsKeptRow } from '../../platform/database/rows';
import { keepDayEnds, nextIds } from '../../kernel/jobs/keeping-day-ends';
import { identify, inspect } from '../../platform/database/snapshot';
import { fingerprint, namesIn } from './archive';

/** Records compared with the log at a time. */
const SLICE = 2000;

/** What a look through a data folder came to. */
export interface Check {
  /** A line for each thing looked at, with what was mended. */
  lines: string[];
  /** Nothing is left that could not be mended. */
  isWhole: boolean;
}

/**
 * Looks through a data folder that nobody uses: pages, links, the change log against the records, the search index, the
 * ends of days and the files. The index and the days are made anew where they are out of step, and files that nobody
 * names are removed.
 * @throws StartError when the folder is in use, or holds no database that this version can open.
 */
export async function check(dataFolder: string): Promise<Check> {
  const file = join(dataFolder, 'zawn.sqlite');
  if (!existsSync(file)) throw new StartError(`There is no database of Zawn’s in ${dataFolder}.`);
  const connections = await openDatabase(dataFolder, { what: 'a check' });
  const result: Check = { lines: [], isWhole: true };
  const say = (what: string, faults: readonly string[], mended = false) => {
    result.lines.push(`${what}: ${faults.length === 0 ? 'all right' : faults.join('; ')}`);
    if (faults.length > 0 && !mended) result.isWhole = false;
  };
  try {
    const { pages, links } = inspect(file);
    say('Pages and indexes', pages);
    say(
      'Links',
      links.map(({ table, count }) => `${count} in ${table} lead nowhere`),
    );
    say('Change log against records', await againstLog(connections.reading.manager));
    const astray = await indexAstray(connections.reading.manager);
    if (astray.length > 0) await connections.writing.transaction(refill);
    say(
      'Search index',
      astray.map((fault) => `${fault}, made anew`),
      true,
    );
    say('Ends of days', await connections.writing.transaction(dayEndsAstray), true);
    const { missing, unnamed } = await filesAstray(dataFolder, identify(file).files);
    say('Files', missing);
    for (const name of unnamed) rmSync(join(dataFolder, 'files', name.slice(0, 2), name));
    if (unnamed.length > 0) result.lines.push(`Files that no record names: ${unnamed.length}, removed`);
    return result;
  } finally {
    await closeDatabase(connections);
  }
}

/** Fields whose value is not what the log says was written last. */
async function againstLog(manager: EntityManager): Promise<string[]> {
  const faults: string[] = [];
  for (const object of objectKeys) {
    if (objectType(object).category === 'log') continue;
    const fields = new Set(storedFields(object).map(([name]) => name));
    let differing = 0;
    let example = '';
    for (let after = 0; ;) {
      const rows = await manager
        .createQueryBuilder<AnyRecord>(object, 'r')
        .where('r.id > :after', { after })
        .orderBy('r.id')
        .take(SLICE)
        .getMany();
      if (rows.length === 0) break;
      after = rows[rows.length - 1].id;
      const last = await lastChanges(
        manager,
        object,
        rows.map(({ id }) => id),
      );
      const byId = new Map(rows.map((row) => [row.id, row]));
      for (const { record, field, new: written } of last) {
        const row = byId.get(record);
        if (!row || field === null || !fields.has(field)) continue;
        if (plain(row[field]) === plain(JSON.parse(String(written)))) continue;
        differing += 1;
        example ||= `${objectType(object).label.toLowerCase()} ${record}, ${field}`;
      }
    }
    if (differing > 0)
      faults.push(
        `${differing} ${differing === 1 ? 'value differs' : 'values differ'} in ${objectType(object).plural.toLowerCase()} (${example})`,
      );
  }
  return faults;
}

/** What was written last to each field of some records. */
async function lastChanges(
  manager: EntityManager,
  object: ObjectKey,
  records: readonly number[],
): Promise<ChangeRow[]> {
  const latest = await manager
    .createQueryBuilder('change', 'c')
    .select('MAX(c.id)', 'id')
    .where({ object, record: In(records), kind: 'changed' })
    .groupBy('c.record')
    .addGroupBy('c.field')
    .getRawMany<{ id: number }>();
  const found: ChangeRow[] = [];
  for (let at = 0; at < latest.length; at += SLICE)
    found.push(
      ...(await manager.findBy<ChangeRow>('change', {
        id: In(latest.slice(at, at + SLICE).map(({ id }) => id)),
      })),
    );
  return found;
}

/** A value in the one form in which column and log can be compared. */
function plain(value: unknown): string {
  if (value === null || value === undefined) return 'null';
  if (typeof value === 'string') return value;
  return JSON.stringify(typeof value === 'boolean' ? Number(value) : value);
}

/** Has the ends of days that are kept made anew from the log where they are not as it says; tells of how many. */
async function dayEndsAstray(manager: EntityManager): Promise<string[]> {
  const faults: string[] = [];
  for (const extent of await manager.find<DayEndsKeptRow>('dayEndsKept')) {
    const object = extent.object as ObjectKey;
    let otherwise = 0;
    for (let after = 0; ;) {
      const ids = await nextIds(manager, object, after);
      if (ids.length === 0) break;
      otherwise += await keepDayEnds(manager, object, ids, extent);
      after = ids[ids.length - 1];
    }
    if (otherwise > 0)
      faults.push(`${howMany(object, otherwise)} stood otherwise on some day, made anew from the log`);
  }
  return faults;
}

/** Kinds of which the search index holds more or fewer records than there are. */
async function indexAstray(manager: EntityManager): Promise<string[]> {
  const faults: string[] = [];
  for (const kind of searchedKinds.filter(isSearched)) {
    const { of, at } = placeOf(kind);
    const [{ count }] = await manager.query<{ count: number }[]>(dialect.fullText.countKind, [of, at]);
    const records = await manager.createQueryBuilder(kind, 'r').where('r.deletedAt IS NULL').getCount();
    if (count !== records) faults.push(`${count} of ${records} ${objectType(kind).plural.toLowerCase()}`);
  }
  return faults;
}

async function refill(manager: EntityManager): Promise<void> {
  for (const statement of dialect.fullText.empty) dialect.run(manager, statement);
  await fillIndex(manager);
}

/** Files that are named and not there or not what they were, and those that no record names. */
async function filesAstray(
  dataFolder: string,
  named: readonly string[],
): Promise<{ missing: string[]; unnamed: string[] }> {
  const folder = join(dataFolder, 'files');
  const there = namesIn(folder);
  const known = new Set(named);
  const gone = named.filter((name) => !there.includes(name)).length;
  let spoilt = 0;
  for (const name of there.filter((each) => known.has(each)))
    if ((await fingerprint(join(folder, name.slice(0, 2), name))) !== name) spoilt += 1;
  return {
    missing: [
      ...(gone > 0 ? [`${gone} are not there`] : []),
      ...(spoilt > 0 ? [`${spoilt} are not what they were`] : []),
    ],
    unnamed: there.filter((name) => !known.has(name)),
  };
}
