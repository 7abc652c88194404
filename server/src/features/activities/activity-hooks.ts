import { choiceLabel, fieldOf, type AnyRecord } from '@zawn/core';
import { inheritLinks } from '../../kernel/records/inherited-links';
import { type RecordHooks } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';

/** Whoever is given something to do hears of it, and whoever gave it when it is done. */
function tellWhoeverElse(unit: Unit, after: AnyRecord, before: AnyRecord | undefined): void {
  // What is taken back or brought in is no news, and what was never open was not given to anybody.
  if (unit.undoes !== undefined || unit.through === 'import') return;
  const on = { object: 'activity' as const, record: after };
  if (after.doneAt === null && after.owner !== before?.owner)
    unit.tell(Number(after.owner), 'taskAssigned', on, [after.dueOn, after.dueAt].filter(Boolean).join(' '));
  if (
    before?.doneAt === null &&
    after.doneAt !== null &&
    after.createdBy !== after.owner &&
    after.createdBy
  ) {
    const outcome = after.outcome
      ? choiceLabel(fieldOf(unit.catalogue, 'activity', 'outcome'), String(after.outcome))
      : '';
    unit.tell(Number(after.createdBy), 'taskDone', on, outcome);
  }
}

/** What planning an activity means. */
export const activityHooks: RecordHooks = {
  object: 'activity',
  beforeWrite: inheritLinks,
  afterWrite(unit, after, before) {
    tellWhoeverElse(unit, after, before);
    return Promise.resolve();
  },
};
