import { type EntityManager } from 'typeorm';
import { type ObjectKey } from '@zawn/core';
import { type MergedRow } from '../../platform/database/rows';

/** Merges that followed one another; more are taken for a mistake. */
const LONGEST_CHAIN = 20;

/** The record that one was merged into at last; undefined when it was not. */
export async function successorOf(
  manager: EntityManager,
  object: ObjectKey,
  id: number,
): Promise<number | undefined> {
  let at = id;
  for (let steps = 0; steps < LONGEST_CHAIN; steps += 1) {
    const row = await manager.findOne<MergedRow>('merged', {
      where: { object, record: at },
      order: { id: 'DESC' },
    });
    if (!row) break;
    at = row.into;
  }
  return at === id ? undefined : at;
}
