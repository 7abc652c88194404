import { Injectable } from '@nestjs/common';
import {
  howMany,
  isSubject,
  objectType,
  type Actor,
  type AnyRecord,
  type BulkAction,
  type BulkExample,
  type BulkPreview,
  type BulkRequest,
  type FieldValue,
  type Job,
  type ObjectKey,
  type Selection,
  type Written,
} from '@zawn/core';
import { Database } from '../../platform/database/database';
import { earlierAnswer } from '../../platform/database/once';
import { Problem } from '../../platform/http/problem';
import { closeDeal } from '../deals/closing';
import { Jobs, type JobKind, type Slice } from '../../kernel/jobs/jobs';
import { Gate } from '../../kernel/questions/gate';
import { Door, type WriteContext } from '../../kernel/records/door';
import { type Unit } from '../../kernel/records/unit';
import { fieldLabels } from '../../kernel/records/unit-words';

const EXAMPLES = 3;
/** How long an answer waits for the work to be done before it tells of the job instead. */
const PATIENCE_MS = 2500;
/** Records one action can be applied to. */
const MOST = 200_000;

interface BulkWork {
  object: ObjectKey;
  action: BulkAction;
  ids: number[];
}

/** Applies one action to many records: what each of them would refuse by hand, it refuses here too. */
@Injectable()
export class Bulk implements JobKind<BulkWork> {
  readonly kind = 'bulk';

  constructor(
    private readonly gate: Gate,
    private readonly door: Door,
    private readonly jobs: Jobs,
    private readonly database: Database,
  ) {
    jobs.register(this);
  }

  /** The ids of a selection, in the order of its question. */
  async idsOf(actor: Actor, object: ObjectKey, selection: Selection): Promise<number[]> {
    if ('ids' in selection) {
      const visible = await this.gate.visible(actor, object, selection.ids);
      return [...visible.keys()];
    }
    const except = new Set(selection.except);
    const ids = await this.gate.ids(actor, selection.question, { offset: 0, limit: MOST + 1 });
    return ids.filter((id) => !except.has(id));
  }

  /** How many records the action would be applied to, with the first of them before and after. Nothing is written. */
  async preview(writing: WriteContext, { object, selection, action }: BulkRequest): Promise<BulkPreview> {
    const ids = await this.idsOf(writing.actor, object, selection);
    const first = ids.slice(0, EXAMPLES);
    const before = await this.gate.visible(writing.actor, object, first);
    const examples = await this.door.rehearse({ ...writing, through: 'bulk' }, async (unit) => {
      const found: BulkExample[] = [];
      for (const record of before.values()) found.push(await exampleOf(unit, object, record, action));
      return found;
    });
    return {
      count: ids.length,
      examples,
      names: await this.gate.namesIn(
        writing.actor,
        object,
        examples.map(({ before: was, after }) => ({ ...was, ...after }) as AnyRecord),
      ),
    };
  }

  /** Applies the action, as one unit. Waits a little; what takes longer goes on by itself. */
  async run(writing: WriteContext, { object, selection, action }: BulkRequest): Promise<Job> {
    const { actor } = writing;
    const earlier = await earlierAnswer<Written<number>>(this.database.reading.manager, writing.asked);
    if (earlier) return this.jobs.settled(actor, earlier.answer.value, PATIENCE_MS);
    const ids = await this.idsOf(actor, object, selection);
    if (ids.length === 0) throw new Problem('conflict', 'There is no record in this selection any more.');
    if (ids.length > MOST)
      throw new Problem('too-large', `At most ${MOST} records can be changed at once. Narrow the question.`);
    // The unit and its job are there together or not at all, also for whoever sends the same once more.
    const { value: job } = await this.door.write({ ...writing, through: 'bulk' }, async (unit) => {
      unit.label = await labelOf(unit, object, action, ids.length);
      return this.jobs.store<BulkWork>(unit.manager, actor, {
        kind: this.kind,
        label: unit.label,
        unit: unit.id,
        request: { object, action, ids },
        total: ids.length,
      });
    });
    await this.jobs.begin(actor, job);
    return this.jobs.settled(actor, job, PATIENCE_MS);
  }

  async work(unit: Unit, { object, action, ids }: BulkWork, from: number, count: number): Promise<Slice> {
    const slice: Slice = { changed: 0, refusals: [] };
    const part = ids.slice(from, from + count);
    if (action.do === 'addToList' || action.do === 'takeFromList') {
      slice.changed = await unit.putOnList(action.list, part, action.do === 'addToList' ? 'added' : 'taken');
      return slice;
    }
    const there = await unit.visible(object, part);
    for (const id of part) {
      const record = there.get(id);
      const name = String(record?.[objectType(object).nameField] ?? id);
      let isChanged = false;
      const refusal = record
        ? await unit.attempt(async () => {
            isChanged = await doTo(unit, object, record, action);
          })
        : 'It is not there any more, or not yours to see';
      if (isChanged) slice.changed += 1;
      if (refusal !== undefined) slice.refusals.push({ id, name, reason: refusal });
    }
    return slice;
  }
}

/** Applies an action to one record. Returns whether that made a difference. */
async function doTo(unit: Unit, object: ObjectKey, record: AnyRecord, action: BulkAction): Promise<boolean> {
  const isNew = ({ version }: AnyRecord) => version !== record.version;
  switch (action.do) {
    case 'change':
      return isNew(await unit.change(object, record.id, action.values));
    case 'tag':
      return isNew(await unit.change(object, record.id, { tags: tagged(record, action) }));
    case 'delete':
      await unit.remove(object, record.id);
      return true;
    case 'close': {
      if (object !== 'deal') throw new Problem('conflict', 'Only deals are won and lost');
      await closeDeal(unit, record, action.closing);
      return true;
    }
    case 'plan': {
      if (!isSubject(object)) throw new Problem('conflict', 'An activity cannot be planned on this');
      const owner = action.activity.owner ?? record.owner;
      await unit.create('activity', { ...action.activity, owner, [object]: record.id });
      return true;
    }
    case 'addToList':
      return (await unit.putOnList(action.list, [record.id], 'added')) > 0;
    case 'takeFromList':
      return (await unit.putOnList(action.list, [record.id], 'taken')) > 0;
  }
}

function tagged({ tags }: AnyRecord, { add, remove }: Extract<BulkAction, { do: 'tag' }>): FieldValue {
  const kept = ((tags ?? []) as readonly string[]).filter((tag) => !remove.includes(tag));
  return [...new Set([...kept, ...add])];
}

/** The fields in which an action is seen. */
function touchedBy(action: BulkAction): readonly string[] {
  if (action.do === 'change') return Object.keys(action.values);
  if (action.do === 'tag') return ['tags'];
  return action.do === 'close' ? ['outcome'] : [];
}

/** One record before and after an action, in the fields that it touches. */
async function exampleOf(
  unit: Unit,
  object: ObjectKey,
  record: AnyRecord,
  action: BulkAction,
): Promise<BulkExample> {
  const { id } = record;
  const name = String(record[objectType(object).nameField]);
  const refused = await unit.attempt(() => doTo(unit, object, record, action));
  const example = { id, name, before: {}, after: {}, ...(refused === undefined ? {} : { refused }) };
  const fields = touchedBy(action);
  if (refused !== undefined || fields.length === 0) return example;
  const after = (await unit.visible(object, [id])).get(id) ?? {
    ...record,
    ...(action.do === 'change' ? action.values : {}),
  };
  const only = (from: Partial<AnyRecord>) =>
    Object.fromEntries(fields.map((field) => [field, from[field] ?? null])) as Record<string, FieldValue>;
  return { ...example, before: only(record), after: only(after) };
}

/** What the notice and the change log call it. */
async function labelOf(unit: Unit, object: ObjectKey, action: BulkAction, count: number): Promise<string> {
  const what = howMany(object, count);
  switch (action.do) {
    case 'change':
      return `Changed ${fieldLabels(unit.catalogue, object, action.values)} of ${what}`;
    case 'tag':
      return `Changed tags of ${what}`;
    case 'delete':
      return `Deleted ${what}`;
    case 'close':
      return `Closed ${what} as ${action.closing.outcome}`;
    case 'plan':
      return `Planned “${String(action.activity.name)}” on ${what}`;
    default: {
      const list = await unit.find('list', action.list);
      const name = String(list.name);
      return action.do === 'addToList'
        ? `Put ${what} on the list “${name}”`
        : `Took ${what} off the list “${name}”`;
    }
  }
}
