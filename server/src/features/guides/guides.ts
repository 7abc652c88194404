import { In, IsNull, type EntityManager } from 'typeorm';
import {
  canAsk,
  fieldOf,
  guideInOrder,
  heldMovePart,
  holdsUp,
  isAnswered,
  itemInWords,
  leadSteps,
  seenCatalogue,
  stepOf,
  type AnyRecord,
  type Catalogue,
  type Guided,
  type GuideFacts,
  type GuideItem,
  type GuideLine,
  type GuideStep,
  type RecordOf,
} from '@zawn/core';
import { dialect } from '../../platform/database/dialect';
import { Problem } from '../../platform/http/problem';
import { type Values } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';

type Item = AnyRecord & RecordOf<'guideItem'>;
type Tick = AnyRecord & RecordOf<'guideTick'>;

const kept = { deletedAt: IsNull() };
/** Where the fields of a deal's account begin. */
export const ACCOUNT = 'account.';

/** What is asked on a way. */
export interface Guide {
  /** The steps of the way, in their order. */
  steps: GuideStep[];
  items: Item[];
}

/** The guide items of some steps that are in use. */
async function itemsOf(manager: EntityManager, by: 'stage' | 'status', steps: GuideStep[]): Promise<Item[]> {
  const items = await manager.find<Item>('guideItem', {
    where: { [by]: In(steps), ...kept } as object,
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

/** What is asked of the deals of a pipeline. */
async function guideOfPipeline(manager: EntityManager, pipeline: number): Promise<Guide> {
  const steps = await stagesInOrder(manager, pipeline);
  return { steps, items: await itemsOf(manager, 'stage', steps) };
}

/** What is asked of leads. */
async function guideOfLeads(manager: EntityManager, catalogue: Catalogue): Promise<Guide> {
  const steps = leadSteps(fieldOf(catalogue, 'lead', 'status')?.choices ?? []);
  return { steps, items: await itemsOf(manager, 'status', steps) };
}

/** Values that stand at records which hang on deals or leads, by the deal or lead. */
export async function heldBy<T extends string | number>(
  manager: EntityManager,
  from: 'activity' | 'dealContact' | 'guideTick',
  column: string,
  ids: readonly number[],
  { by = 'deal', where = '' }: { by?: Guided; where?: string } = {},
): Promise<Map<number, Set<T>>> {
  const rows = await manager
    .createQueryBuilder()
    .select(`r.${by}`, 'of')
    .addSelect(`r.${column}`, 'value')
    .from(from, 'r')
    .where(`r.${by} IN (${dialect.members(':ids')}) AND r.deletedAt IS NULL${where}`, {
      ids: JSON.stringify(ids),
    })
    .groupBy(`r.${by}`)
    .addGroupBy(`r.${column}`)
    .getRawMany<{ of: number; value: T }>();
  const held = new Map<number, Set<T>>();
  for (const { of, value } of rows) held.set(of, (held.get(of) ?? new Set<T>()).add(value));
  return held;
}

/** Narrows activities, `r`, to those that were done. */
export const WAS_DONE = ' AND r.doneAt IS NOT NULL';

/**
 * What is known of a deal or a lead, as far as guides ask about it.
 * @param values the record, with what is about to be written of it.
 * @param account the account of a deal.
 */
async function guideFacts(
  manager: EntityManager,
  by: Guided,
  id: number,
  values: Values,
  account: Values | undefined,
): Promise<{ facts: GuideFacts; ticks: Tick[] }> {
  const [done, roles, ticks] = await Promise.all([
    heldBy<string>(manager, 'activity', 'kind', [id], { by, where: WAS_DONE }),
    by === 'deal' ? heldBy<string>(manager, 'dealContact', 'role', [id]) : new Map<number, Set<string>>(),
    manager.findBy<Tick>('guideTick', { [by]: id, ...kept }),
  ]);
  const facts: GuideFacts = {
    valueOf: (path) => (path.startsWith(ACCOUNT) ? account?.[path.slice(ACCOUNT.length)] : values[path]),
    done: done.get(id) ?? new Set(),
    roles: roles.get(id) ?? new Set(),
    ticked: new Set(ticks.map(({ item }) => item)),
  };
  return { facts, ticks };
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
    const guide = guides.get(pipeline) ?? { steps: [], items: [] };
    guides.set(pipeline, guide);
    guide.steps.push(id);
    guide.items.push(...items.filter(({ stage }) => stage === id));
  }
  return guides;
}

/** The guides that a unit has come across: one that moves many reads each once. */
const known = new WeakMap<Unit, Map<string, Promise<Guide>>>();

function guideIn(unit: Unit, object: Guided, record: AnyRecord): Promise<Guide> {
  const guides = known.get(unit) ?? new Map<string, Promise<Guide>>();
  known.set(unit, guides);
  const key = object === 'deal' ? `deal ${String(record.pipeline)}` : object;
  let guide = guides.get(key);
  if (!guide) {
    guide =
      object === 'deal'
        ? guideOfPipeline(unit.manager, Number(record.pipeline))
        : guideOfLeads(unit.manager, unit.catalogue);
    guides.set(key, guide);
  }
  return guide;
}

/** Units that move deals because a stage goes, and not because they have come further. */
const unheld = new WeakSet<Unit>();

/** Lets every deal of this unit go where it is moved, whatever is still to do. */
export const holdNothingUp = (unit: Unit): void => void unheld.add(unit);

/** Where a record stands on its way. */
const stepIn = (object: Guided, values: Values) =>
  (object === 'deal' ? values.stage : values.status) as GuideStep;

/**
 * Lets a deal or a lead go on to another step.
 * @throws Problem `guide-open` with every required item that is still open.
 */
export async function mustBeDone(unit: Unit, object: Guided, before: AnyRecord, next: Values): Promise<void> {
  if (unheld.has(unit)) return;
  const { steps, items } = await guideIn(unit, object, before);
  if (!items.some(({ needed }) => needed)) return;
  const values: Values = { ...before, ...next };
  const asksAccount = values.account != null && items.some(({ field }) => field?.startsWith(ACCOUNT));
  const account = asksAccount
    ? (await unit.everyones('account', [Number(values.account)])).get(Number(values.account))
    : undefined;
  const { facts } = await guideFacts(unit.manager, object, before.id, values, account);
  // What somebody does not see is not asked of them.
  const catalogue = seenCatalogue(unit.catalogue, unit.policy);
  const to = stepIn(object, next);
  const open = holdsUp(items, facts, catalogue, steps, stepIn(object, before), to);
  if (open.length === 0) return;
  const words = open.map((item) => itemInWords(item, catalogue));
  throw new Problem(
    'guide-open',
    `“${String(before.name)}” cannot go on yet. Still to do: ${words.join('; ')}.`,
    {
      faults: open.map((item, index) => ({ field: faultField(item), message: words[index] })),
      part: heldMovePart(to),
    },
  );
}

const faultField = ({ kind, field }: GuideItem) => (kind === 'field' ? String(field) : kind);

/** What somebody asks of a guide. */
export interface Asking {
  manager: EntityManager;
  /** The fields that are seen; what asks about others is left out. */
  catalogue: Catalogue;
  /** The account of a deal, as far as it is seen. */
  account?: Values | undefined;
  /** A step that the record is to go on to: what is asked on the way there is told too. */
  to?: GuideStep | undefined;
}

/** The guide of a record as it stands: what its step asks for, and what stayed open of the steps before. */
export async function guideLines(
  { manager, catalogue, account, to }: Asking,
  object: Guided,
  record: AnyRecord,
): Promise<GuideLine[]> {
  const guide =
    object === 'deal'
      ? await guideOfPipeline(manager, Number(record.pipeline))
      : await guideOfLeads(manager, catalogue);
  const here = guide.steps.indexOf(stepIn(object, record));
  const reached = to === undefined ? -1 : guide.steps.indexOf(to);
  const passed = new Set(guide.steps.slice(0, Math.max(here + 1, reached)));
  const items = guideInOrder(guide.items, guide.steps).filter(
    (item) => passed.has(stepOf(item)) && canAsk(item, catalogue),
  );
  if (items.length === 0) return [];
  const { facts, ticks } = await guideFacts(manager, object, record.id, record, account);
  return items.flatMap((item) => {
    const isDone = isAnswered(item, facts);
    const at = guide.steps.indexOf(stepOf(item));
    const when = at === here ? 'now' : at < here ? 'before' : 'ahead';
    if (isDone && when !== 'now') return [];
    const tick = ticks.find((each) => each.item === item.id);
    const { id, stage, status, position, kind, label, field, activityKind, role } = item;
    return [
      {
        ...{ id, stage, status, position, kind, label, field, activityKind, role },
        needed: item.needed === true,
        words: itemInWords(item, catalogue),
        isDone,
        when,
        tick: tick ? { id: tick.id, version: tick.version } : null,
      },
    ];
  });
}
