import { type EntityManager } from 'typeorm';
import { dialect } from '../../platform/database/dialect';

type Touched = 'lead' | 'contact' | 'account' | 'deal';

/** The first or last instant of what hangs on each of these records. */
async function edges(
  manager: EntityManager,
  kind: 'activity' | 'mail',
  instant: string,
  edge: 'MIN' | 'MAX',
  object: Touched,
  ids: readonly number[],
  narrowed: string,
): Promise<{ id: number; at: string }[]> {
  return manager
    .createQueryBuilder()
    .select(`r.${object}`, 'id')
    .addSelect(`${edge}(r.${instant})`, 'at')
    .from(kind, 'r')
    .where(`r.${object} IN (${dialect.members(':ids')}) AND r.deletedAt IS NULL AND ${narrowed}`, {
      ids: JSON.stringify(ids),
    })
    .groupBy(`r.${object}`)
    .getRawMany<{ id: number; at: string }>();
}

const WITH_PEOPLE = `r.doneAt IS NOT NULL AND r.kind <> 'task'`;

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
  manager: EntityManager,
  object: Touched,
  ids: readonly number[],
): Promise<Map<number, string>> {
  const found = [
    ...(await edges(manager, 'activity', 'doneAt', 'MIN', object, ids, WITH_PEOPLE)),
    ...(await edges(manager, 'mail', 'sentAt', 'MIN', object, ids, `r.direction = 'out'`)),
  ];
  return joined(found, (a, b) => a < b);
}

/** When there was last a call, a meeting or an email either way. */
export async function latest(
  manager: EntityManager,
  object: Touched,
  ids: readonly number[],
): Promise<Map<number, string>> {
  const found = [
    ...(await edges(manager, 'activity', 'doneAt', 'MAX', object, ids, WITH_PEOPLE)),
    ...(await edges(manager, 'mail', 'sentAt', 'MAX', object, ids, '1 = 1')),
  ];
  return joined(found, (a, b) => a > b);
}
