import { type EntityManager } from 'typeorm';
import { touchTypes } from '@zawn/core';
import { dialect } from '../../platform/database/dialect';
import { type Deriving } from '../../kernel/records/derivation';

/** What else holds of the rows that count. */
interface Narrowed {
  sql: string;
  parameters?: Readonly<Record<string, unknown>>;
}

type Touched = 'lead' | 'contact' | 'account' | 'deal';

/**
 * The first or last instant of what hangs on each of these records.
 * @param by what links to the records: itself, or the further records of an activity.
 */
async function edges(
  manager: EntityManager,
  kind: 'activity' | 'mail',
  instant: string,
  edge: 'MIN' | 'MAX',
  object: Touched,
  ids: readonly number[],
  narrowed: Narrowed,
  by: 'itself' | 'activityLink' = 'itself',
): Promise<{ id: number; at: string }[]> {
  const link = by === 'itself' ? `r.${object}` : `l.${object}`;
  const query = manager.createQueryBuilder().select(link, 'id').addSelect(`${edge}(r.${instant})`, 'at');
  query.from(kind, 'r');
  if (by !== 'itself') query.innerJoin(by, 'l', 'l.activity = r.id AND l.deletedAt IS NULL');
  return query
    .where(`${link} IN (${dialect.members(':ids')}) AND r.deletedAt IS NULL AND ${narrowed.sql}`, {
      ids: JSON.stringify(ids),
      ...narrowed.parameters,
    })
    .groupBy(link)
    .getRawMany<{ id: number; at: string }>();
}

/** Activities of these types that were done; `ours` leaves out those that came from outside. */
function done(types: readonly string[], ours: boolean): Narrowed {
  const incoming = ours ? ` AND (r.direction IS NULL OR r.direction <> 'in')` : '';
  return {
    sql: `r.doneAt IS NOT NULL AND r.kind IN (${dialect.members(':types')})${incoming}`,
    parameters: { types: JSON.stringify(types) },
  };
}

function joined(
  found: readonly { id: number; at: string }[],
  isBetter: (a: string, b: string) => boolean,
): Map<number, string> {
  const best = new Map<number, string>();
  for (const { id, at } of found) {
    const known = best.get(id);
    if (known === undefined || isBetter(at, known)) best.set(id, at);
  }
  return best;
}

/** When somebody of ours first called, met or wrote to each of these. */
export async function earliest(
  { manager, catalogue }: Pick<Deriving, 'manager' | 'catalogue'>,
  object: Touched,
  ids: readonly number[],
): Promise<Map<number, string>> {
  const ours = done(touchTypes(catalogue, 'out'), true);
  const found = [
    ...(await edges(manager, 'activity', 'doneAt', 'MIN', object, ids, ours)),
    ...(await edges(manager, 'activity', 'doneAt', 'MIN', object, ids, ours, 'activityLink')),
    ...(await edges(manager, 'mail', 'sentAt', 'MIN', object, ids, { sql: `r.direction = 'out'` })),
  ];
  return joined(found, (a, b) => a < b);
}

/** When there was last a call, a meeting or an email either way. */
export async function latest(
  { manager, catalogue }: Pick<Deriving, 'manager' | 'catalogue'>,
  object: Touched,
  ids: readonly number[],
): Promise<Map<number, string>> {
  const either = done(touchTypes(catalogue), false);
  const found = [
    ...(await edges(manager, 'activity', 'doneAt', 'MAX', object, ids, either)),
    ...(await edges(manager, 'activity', 'doneAt', 'MAX', object, ids, either, 'activityLink')),
    ...(await edges(manager, 'mail', 'sentAt', 'MAX', object, ids, { sql: '1 = 1' })),
  ];
  return joined(found, (a, b) => a > b);
}
