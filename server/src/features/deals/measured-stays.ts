import { In, type EntityManager } from 'typeorm';
import { dayIn, measureStays, type StagePlace } from '@zawn/core';
import { dialect } from '../../platform/database/dialect';
import { type StagePeriodRow } from '../../platform/database/rows';

interface StageRow {
  id: number;
  pipeline: number;
  position: number;
  retired: boolean | null;
  deletedAt: string | null;
}

/** Puts right what is told of the stays of some deals beside when they were, and writes only what changed. */
export async function keepStaysMeasured(
  manager: EntityManager,
  deals: readonly number[],
  timeZone: string,
): Promise<void> {
  const rows = await manager.find<StagePeriodRow>('stagePeriod', {
    where: { deal: In([...deals]) },
    order: { id: 'ASC' },
  });
  if (rows.length === 0) return;
  const stages = await manager.find<StageRow>('stage');
  const places = new Map<number, StagePlace>(
    stages.map(({ retired, deletedAt, ...stage }) => [
      stage.id,
      { ...stage, isInUse: retired !== true && deletedAt === null },
    ]),
  );
  const byDeal = new Map<number, StagePeriodRow[]>();
  for (const row of rows) byDeal.set(row.deal, [...(byDeal.get(row.deal) ?? []), row]);
  const outcomes = new Map(
    dialect
      .rows<{ id: number; outcome: string }>(manager, 'deal', ['id', 'outcome'], deals)
      .map(({ id, outcome }) => [id, outcome]),
  );
  for (const [deal, periods] of byDeal)
    for (const [index, measure] of measureStays(periods, outcomes.get(deal) ?? 'open', places, (at) =>
      dayIn(timeZone, at),
    ).entries()) {
      const row = periods[index];
      const next = { ...measure, isLast: Number(measure.isLast) };
      const isSame = (Object.keys(next) as (keyof typeof next)[]).every((key) => row[key] === next[key]);
      if (!isSame) await manager.update('stagePeriod', row.id, next);
    }
}
