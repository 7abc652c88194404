import { type AnyRecord, type ObjectKey } from '@zawn/core';
import { checkReport } from '@zawn/core/validation';
import { checkedJson } from '../../kernel/records/checked-json';
import { type RecordHooks, type Values } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';
import { completeSharing } from '../../kernel/views/view-hooks';
import { invalidInput } from '../../platform/http/problem';

export const reportHooks: RecordHooks = {
  object: 'report',

  /** Keeps nothing that is not a report of its own object. */
  async beforeWrite(unit, next, before) {
    completeSharing(unit, next, before);
    await completeTeams(unit, next, before);
    if (next.design === undefined) return;
    const object = (before?.object ?? next.object) as ObjectKey;
    const check = (raw: unknown) => checkReport(raw, unit.catalogue);
    const { text, value } = checkedJson(next.design, 'design', 'The report', check);
    if (value.question.object !== object)
      throw invalidInput([{ field: 'design', message: 'A report must ask for what it is of' }]);
    next.design = text;
  },
};

/** Certain teams are named where it is shared with certain teams, and nowhere else. */
async function completeTeams(unit: Unit, next: Values, before: AnyRecord | undefined): Promise<void> {
  if (next.sharing === undefined && next.teams === undefined) return;
  if ((next.sharing ?? before?.sharing) !== 'teams') {
    next.teams = null;
    return;
  }
  const named = next.teams === undefined ? before?.teams : next.teams;
  const teams = ((named ?? []) as readonly string[]).map(Number);
  if (teams.length === 0)
    throw invalidInput([{ field: 'teams', message: 'Choose the teams to share this with' }]);
  const there = await unit.everyones('team', teams);
  if (there.size < new Set(teams).size)
    throw invalidInput([{ field: 'teams', message: 'One of these teams is gone. Choose others' }]);
}
