import { IsNull } from 'typeorm';
import { canAsk, guidedBy, type AnyRecord, type GuideItem, type RecordOf } from '@zawn/core';
import { invalidInput, Problem } from '../../platform/http/problem';
import { type RecordHooks } from '../../kernel/records/record-hooks';

/** What each kind of item cannot do without. */
const needs = {
  tick: { field: 'label', message: 'What is asked is missing' },
  field: { field: 'field', message: 'Choose a field of the deal or its account, or of the lead' },
  activity: { field: 'activityKind', message: 'Choose the type of the activity' },
  role: { field: 'role', message: 'Choose the role; there are roles in deals only' },
} as const;

type Item = AnyRecord & RecordOf<'guideItem'> & GuideItem;

/** What an item asks, told from what others ask. */
const aboutOf = (item: Item) =>
  `${item.kind} ${String(item[needs[item.kind].field] ?? '')
    .trim()
    .toLowerCase()}`;

/** What it means to ask for something in a step: there is something to ask about, and it is asked there once. */
export const guideItemHooks: RecordHooks = {
  object: 'guideItem',
  async beforeWrite(unit, next, before) {
    if (unit.undoes !== undefined) return;
    const item = { ...before, ...next } as unknown as Item;
    if ((item.stage ?? null) === null ? !item.status : item.status)
      throw invalidInput([
        { field: 'stage', message: 'Say the stage, or else the lead status, it is asked in' },
      ]);
    // What asked about a field that is gone can be put away all the same.
    if (item.retired === true) return;
    if (!canAsk(item, unit.catalogue)) throw invalidInput([needs[item.kind]]);
    const step = item.stage ? { stage: item.stage } : { status: item.status };
    const others = await unit.manager.findBy<Item>('guideItem', { ...step, deletedAt: IsNull() } as object);
    const isSame = (other: Item) =>
      other.id !== before?.id && other.retired !== true && aboutOf(other) === aboutOf(item);
    if (others.some(isSame)) throw new Problem('conflict', 'This is asked here already. Change it there.');
  },
};

/** What it means to tick something for a deal or a lead: it is something to tick, asked of such, and once. */
export const guideTickHooks: RecordHooks = {
  object: 'guideTick',
  async beforeWrite(unit, next, before) {
    if (before || unit.undoes !== undefined) return;
    const [deal, lead] = [next.deal ?? null, next.lead ?? null];
    if ((deal === null) === (lead === null))
      throw invalidInput([{ field: 'deal', message: 'Say the deal, or else the lead, it is ticked for' }]);
    const item = await unit.find('guideItem', Number(next.item)).catch(() => undefined);
    if (item && item.kind !== 'tick')
      throw invalidInput([{ field: 'item', message: 'This is nothing to tick: it counts once it is so' }]);
    const by = deal === null ? 'lead' : 'deal';
    if (item && guidedBy(item as unknown as GuideItem) !== by)
      throw invalidInput([{ field: 'item', message: `This is not asked of a ${by}` }]);
    const same = { [by]: Number(next[by]), item: Number(next.item), deletedAt: IsNull() };
    if ((await unit.manager.countBy('guideTick', same)) > 0)
      throw new Problem('conflict', 'This has been ticked already.');
  },
  async afterWrite(unit, tick, before) {
    if (before) return;
    const item = await unit.find('guideItem', Number(tick.item));
    const guided = guidedBy(item as unknown as GuideItem);
    const record = await unit.find(guided, Number(tick[guided]));
    unit.label ||= `Ticked “${String(item.label)}” for “${String(record.name)}”`;
  },
};
