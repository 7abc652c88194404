import { IsNull } from 'typeorm';
import { canAsk, type GuideItem } from '@zawn/core';
import { invalidInput, Problem } from '../../platform/http/problem';
import { type RecordHooks } from '../../kernel/records/record-hooks';

/** What each kind of item cannot do without. */
const needs = {
  tick: { field: 'label', message: 'What is asked is missing' },
  field: { field: 'field', message: 'Choose a field of the deal or its account' },
  activity: { field: 'activityKind', message: 'Choose the type of the activity' },
  role: { field: 'role', message: 'Choose the role' },
} as const;

/** What it means to ask for something in a stage: there is something to ask about. */
export const guideItemHooks: RecordHooks = {
  object: 'guideItem',
  beforeWrite(unit, next, before) {
    if (unit.undoes !== undefined) return Promise.resolve();
    const item = { ...before, ...next } as unknown as GuideItem & { retired: boolean | null };
    // What asked about a field that is gone can be put away all the same.
    if (item.retired !== true && !canAsk(item, unit.catalogue))
      return Promise.reject(invalidInput([needs[item.kind]]));
    return Promise.resolve();
  },
};

/** What it means to tick something for a deal: it is something to tick, and once. */
export const guideTickHooks: RecordHooks = {
  object: 'guideTick',
  async beforeWrite(unit, next, before) {
    if (before || unit.undoes !== undefined) return;
    const item = await unit.find('guideItem', Number(next.item)).catch(() => undefined);
    if (item && item.kind !== 'tick')
      throw invalidInput([{ field: 'item', message: 'This is nothing to tick: it counts once it is so' }]);
    const same = { deal: Number(next.deal), item: Number(next.item), deletedAt: IsNull() };
    if ((await unit.manager.countBy('guideTick', same)) > 0)
      throw new Problem('conflict', 'This has been ticked already.');
  },
  async afterWrite(unit, tick, before) {
    if (before) return;
    const [item, deal] = await Promise.all([
      unit.find('guideItem', Number(tick.item)),
      unit.find('deal', Number(tick.deal)),
    ]);
    unit.label ||= `Ticked “${String(item.label)}” for “${String(deal.name)}”`;
  },
};
