import { type EntityManager } from 'typeorm';

/** The id of the last entry of the change log; 0 while it is empty. */
export async function lastChange(manager: EntityManager): Promise<number> {
  const row = await manager
    .createQueryBuilder()
    .select('MAX(c.id)', 'last')
    .from('change', 'c')
    .getRawOne<{ last: number | null }>();
  return row?.last ?? 0;
}
