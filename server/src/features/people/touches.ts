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

/** The first or last instant of what hangs on each of these records. */
async function edges(
  manager: EntityManager,
  kind: 'activity' | 'mail',
  instant: string,
  edge: 'MIN' | 'MAX',
  object: Touched,
  ids: readonly number[],
  narrowed: Narrowed,
): Promise<{ id: number; at: string }[]> {
  return manager
    .createQueryBuilder()
    .select(`r.${object}`, 'id')
    .addSelect(`${edge}(r.${instant})`, 'at')
    .from(kind, 'r')
    .where(`r.${object} IN (${dialect.members(':ids')}) AND r.deletedAt IS NULL AND ${narrowed.sql}`, {
      ids: JSON.stringify(ids),
      ...narrowed.parameters,
    })
    .groupBy(`r.${object}`)
    .getRawMany<{ id: number; at: string }>();
}

/** The same of activities that are about these records beside others. */
async function edgesOfFurther(
  manager: EntityManager,
  edge: 'MIN' | 'MAX',
  object: Touched,
  ids: readonly number[],
  narrowed: Narrowed,
): Promise<{ id: number; at: string }[]> {
  return manager
    .createQueryBuilder()
    .select(`l.${object}`, 'id')
    .addSelect(`${edge}(r.doneAt)`, 'at')
    .from('activityLink', 'l')
    .innerJoin('activity', 'r', 'r.id = l.activity AND r.deletedAt IS NULL')
    .where(`l.${object} IN (${dialect.members(':ids')}) AND l.deletedAt IS NULL AND ${narrowed.sql}`, {
      ids: JSON.stringify(ids),
      ...narrowed.parameters,
    })
    .groupBy(`l.${object}`)
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
    ...(await edgesOfFurther(manager, 'MIN', object, ids, ours)),
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
    ...(await edgesOfFurther(manager, 'MAX', object, ids, either)),
    ...(await edges(manager, 'mail', 'sentAt', 'MAX', object, ids, { sql: '1 = 1' })),
  ];
  return joined(found, (a, b) => a > b);
}
