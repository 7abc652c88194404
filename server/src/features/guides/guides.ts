import { In, IsNull, type EntityManager } from 'typeorm';
import {
  canAsk,
  guideInOrder,
  holdsUp,
  isAnswered,
  itemInWords,
  seenCatalogue,
  type AnyRecord,
  type Catalogue,
  type GuideFacts,
  type GuideItem,
  type GuideLine,
  type RecordOf,
} from '@zawn/core';
import { dialect } from '../../platform/database/dialect';
import { Problem } from '../../platform/http/problem';
import { type Values } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';

type Item = AnyRecord & RecordOf<'guideItem'>;
type Tick = AnyRecord & RecordOf<'guideTick'>;

const kept = { deletedAt: IsNull() };

/** The guide items of some stages that are in use. */
async function itemsOf(manager: EntityManager, stages: readonly number[]): Promise<Item[]> {
  const items = await manager.find<Item>('guideItem', {
    where: { stage: In([...stages]), ...kept } as object,
    order: { position: 'ASC', id: 'ASC' } as object,
  });
  return items.filter(({ retired }) => retired !== true);
}

/** The stages of a pipeline in their order, those in use. */
async function stagesInOrder(manager: EntityManager, pipeline: number): Promise<number[]> {
  const rows = await manager
    .createQueryBuilder()
    .select('s.id', 'id')
    .from('stage', 's')
    .where('s.pipeline = :pipeline AND s.deletedAt IS NULL AND (s.retired IS NULL OR s.retired = 0)', {
      pipeline,
    })
    .orderBy('s.position')
    .addOrderBy('s.id')
    .getRawMany<{ id: number }>();
  return rows.map(({ id }) => id);
}

/** Values that stand at records which hang on deals, by the deal. */
export async function heldBy<T extends string | number>(
  manager: EntityManager,
  from: 'activity' | 'dealContact' | 'guideTick',
  column: string,
  ids: readonly number[],
  where = '',
): Promise<Map<number, Set<T>>> {
  const rows = await manager
    .createQueryBuilder()
    .select('r.deal', 'deal')
    .addSelect(`r.${column}`, 'value')
    .from(from, 'r')
    .where(`r.deal IN (${dialect.members(':ids')}) AND r.deletedAt IS NULL${where}`, {
      ids: JSON.stringify(ids),
    })
    .groupBy('r.deal')
    .addGroupBy(`r.${column}`)
    .getRawMany<{ deal: number; value: T }>();
  const held = new Map<number, Set<T>>();
  for (const { deal, value } of rows) held.set(deal, (held.get(deal) ?? new Set<T>()).add(value));
  return held;
}

/**
 * What is known of a deal, as far as guides ask about it.
 * @param values the deal, with what is about to be written of it.
 */
async function guideFacts(
  manager: EntityManager,
  deal: number,
  values: Values,
  account: Values | undefined,
): Promise<{ facts: GuideFacts; ticks: Tick[] }> {
  const [done, roles, ticks] = await Promise.all([
    heldBy<string>(manager, 'activity', 'kind', [deal], ' AND r.doneAt IS NOT NULL'),
    heldBy<string>(manager, 'dealContact', 'role', [deal]),
    manager.findBy<Tick>('guideTick', { deal, ...kept }),
  ]);
  const facts: GuideFacts = {
    valueOf: (path) =>
      path.startsWith('account.') ? account?.[path.slice('account.'.length)] : values[path],
    done: done.get(deal) ?? new Set(),
    roles: roles.get(deal) ?? new Set(),
    ticked: new Set(ticks.map(({ item }) => item)),
  };
  return { facts, ticks };
}

/** What is asked in a pipeline. */
export interface Guide {
  /** Its stages in their order, by their ids. */
  stages: number[];
  items: Item[];
}

/** The guides of all pipelines that ask something, by the pipeline. */
export async function guidesInUse(manager: EntityManager): Promise<Map<number, Guide>> {
  const items = (await manager.findBy<Item>('guideItem', kept as object)).filter(
    ({ retired }) => retired !== true,
  );
  const guides = new Map<number, Guide>();
  if (items.length === 0) return guides;
  const stages = await manager.find<AnyRecord & RecordOf<'stage'>>('stage', {
    where: kept as object,
    order: { position: 'ASC', id: 'ASC' } as object,
  });
  for (const { id, pipeline, retired } of stages) {
    if (retired === true) continue;
    const guide = guides.get(pipeline) ?? { stages: [], items: [] };
    guides.set(pipeline, guide);
    guide.stages.push(id);
    guide.items.push(...items.filter(({ stage }) => stage === id));
  }
  return guides;
}

/** Guides of the stages that a unit moves deals out of: one that moves many reads them once. */
const known = new WeakMap<Unit, Map<number, Promise<Guide>>>();

function guideOf(unit: Unit, pipeline: number) {
  const guides = known.get(unit) ?? new Map<number, Promise<Guide>>();
  known.set(unit, guides);
  let guide = guides.get(pipeline);
  if (!guide) {
    guide = (async () => {
      const stages = await stagesInOrder(unit.manager, pipeline);
      return { stages, items: await itemsOf(unit.manager, stages) };
    })();
    guides.set(pipeline, guide);
  }
  return guide;
}

/** Units that move deals because a stage goes, and not because they have come further. */
const unheld = new WeakSet<Unit>();

/** Lets every deal of this unit go where it is moved, whatever is still to do. */
export const holdNothingUp = (unit: Unit): void => void unheld.add(unit);

/**
 * Lets a deal go on to another stage.
 * @throws Problem `guide-open` with every required item that is still open.
 */
export async function mustBeDone(unit: Unit, before: AnyRecord, next: Values): Promise<void> {
  if (unheld.has(unit)) return;
  const { stages, items } = await guideOf(unit, Number(before.pipeline));
  if (!items.some(({ needed }) => needed)) return;
  const deal: Values = { ...before, ...next };
  const account =
    deal.account == null || !items.some(({ field }) => field?.startsWith('account.'))
      ? undefined
      : (await unit.everyones('account', [Number(deal.account)])).get(Number(deal.account));
  const { facts } = await guideFacts(unit.manager, before.id, deal, account);
  // What somebody does not see is not asked of them.
  const catalogue = seenCatalogue(unit.catalogue, unit.policy);
  const open = holdsUp(items, facts, catalogue, stages, Number(before.stage), Number(next.stage));
  if (open.length === 0) return;
  const words = open.map((item) => itemInWords(item, catalogue));
  throw new Problem(
    'guide-open',
    `“${String(before.name)}” cannot go on yet. Still to do: ${words.join('; ')}.`,
    { faults: open.map((item, index) => ({ field: faultField(item), message: words[index] })) },
  );
}

const faultField = ({ kind, field }: GuideItem) => (kind === 'field' ? String(field) : kind);

/**
 * The guide of a deal as it stands: what its stage asks for, and what stayed open of the stages before.
 * @param account the account of the deal, as far as it is seen.
 * @param catalogue the fields that are seen; what asks about others is left out.
 * @param to a stage that the deal is to go on to: what is asked on the way there is told too.
 */
export async function guideLines(
  manager: EntityManager,
  deal: AnyRecord,
  account: Values | undefined,
  catalogue: Catalogue,
  to?: number,
): Promise<GuideLine[]> {
  const stages = await stagesInOrder(manager, Number(deal.pipeline));
  const reached = to === undefined ? -1 : stages.indexOf(to);
  const passed = stages.slice(0, Math.max(stages.indexOf(Number(deal.stage)) + 1, reached));
  const items = guideInOrder(await itemsOf(manager, passed), stages).filter((item) =>
    canAsk(item, catalogue),
  );
  if (items.length === 0) return [];
  const { facts, ticks } = await guideFacts(manager, deal.id, deal, account);
  return items.flatMap((item) => {
    const isDone = isAnswered(item, facts);
    if (isDone && item.stage !== deal.stage) return [];
    const tick = ticks.find((each) => each.item === item.id);
    const { id, stage, position, kind, label, field, activityKind, role } = item;
    return [
      {
        ...{ id, stage, position, kind, label, field, activityKind, role },
        needed: item.needed === true,
        words: itemInWords(item, catalogue),
        isDone,
        tick: tick ? { id: tick.id, version: tick.version } : null,
      },
    ];
  });
}
