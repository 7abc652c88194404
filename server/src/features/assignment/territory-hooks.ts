import { IsNull } from 'typeorm';
import {
  ask,
  holds,
  isGroup,
  isRelated,
  pathsOfTest,
  runnable,
  type AnyRecord,
  type Condition,
  type ObjectKey,
  type QuestionContext,
  type Rate,
  type RecordOf,
} from '@zawn/core';
import { checkRule } from '@zawn/core/validation';
import { invalidInput } from '../../platform/http/problem';
import { type RecordHooks, type Values } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';
import { parsedCondition } from './parsed-condition';

type Territory = RecordOf<'territory'>;

/** Whether a condition asks about the record alone: what lies behind its links may change without it. */
function asksItself(condition: Condition): boolean {
  if (isGroup(condition)) return condition.of.every(asksItself);
  return (
    !isRelated(condition) && pathsOfTest(condition).every((path) => !path.includes('.') && path !== 'lists')
  );
}

/** What writing a territory means: its condition is a question about the records themselves. */
export const territoryHooks: RecordHooks = {
  object: 'territory',
  beforeWrite(unit, next, before) {
    if (!next.condition) return Promise.resolve();
    const object = String(next.object ?? before?.object) as ObjectKey;
    const where = parsedCondition(next.condition);
    const { faults } = checkRule({ version: 1, object, where }, unit.catalogue);
    const { leftOut } = runnable(ask(object, where), { catalogue: unit.catalogue, lists: [] });
    const gone = leftOut.find(({ reason }) => reason === 'unknownField');
    const message = faults[0]?.message ?? (gone && `There is no field “${gone.part}”`);
    if (message) throw invalidInput([{ field: 'condition', message: `Condition: ${message}` }]);
    if (!asksItself(where))
      throw invalidInput([
        {
          field: 'condition',
          message: 'Condition: a territory asks about the record itself, and not about what it is linked to',
        },
      ]);
    return Promise.resolve();
  },
};

/** The territories of an object in their order, and what their questions mean. */
interface Known {
  territories: { id: number; where: Condition | undefined }[];
  context: QuestionContext;
  rates: readonly Rate[];
}

/** Read once for each unit: a file brings thousands of records. */
const known = new WeakMap<Unit, Map<ObjectKey, Promise<Known>>>();

async function read(unit: Unit, object: ObjectKey): Promise<Known> {
  const rows = await unit.manager.find<Territory>('territory', {
    where: { object, active: true, deletedAt: IsNull() } as object,
    order: { position: 'ASC', id: 'ASC' },
  });
  const context = await unit.context();
  const territories = rows.map(({ id, condition }) => ({
    id,
    where: condition ? (JSON.parse(condition) as Condition) : undefined,
  }));
  return {
    // What can no longer be asked means nobody's.
    territories: territories.filter(
      ({ where }) => !where || runnable(ask(object, where), context).leftOut.length === 0,
    ),
    context,
    rates: await unit.rates(),
  };
}

function territoriesOf(unit: Unit, object: ObjectKey): Promise<Known> {
  const all = known.get(unit) ?? new Map<ObjectKey, Promise<Known>>();
  known.set(unit, all);
  const found = all.get(object) ?? read(unit, object);
  all.set(object, found);
  return found;
}

/** The territory that a record with these values belongs to: the first whose question it meets. */
async function territoryFor(unit: Unit, object: ObjectKey, values: Values): Promise<number | null> {
  const record = { id: 0, version: 1, createdAt: unit.at, updatedAt: unit.at, createdBy: null, ...values };
  const { territories, context, rates } = await territoriesOf(unit, object);
  const around = { find: () => undefined, linking: () => [], rates };
  const met = territories.find(
    ({ where }) => !where || holds(where, object, record as unknown as AnyRecord, context, around),
  );
  return met?.id ?? null;
}

/** A new account or lead is put into its territory, whoever makes it and by whatever way. */
export const intoTerritory: readonly RecordHooks[] = (['account', 'lead'] as const).map((object) => ({
  object,
  // Behind everything that completes the values.
  order: 9,
  async beforeWrite(unit, next, before) {
    if (before || unit.undoes !== undefined || (next.territory ?? null) !== null) return;
    next.territory = await territoryFor(unit, object, next);
  },
}));
