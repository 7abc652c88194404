import { type AnyRecord, type ObjectKey } from '@zawn/core';
import { checkDesign } from '@zawn/core/validation';
import { invalidInput } from '../../platform/http/problem';
import { checkedJson } from '../records/checked-json';
import { type RecordHooks, type Values } from '../records/record-hooks';
import { type Unit } from '../records/unit';

/** What is shared belongs to who makes it, and is shared with that person's team. */
export function completeSharing(unit: Unit, next: Values, before: AnyRecord | undefined): void {
  if (!before) next.owner = unit.actor.personId;
  if (next.sharing === undefined) return;
  const [team] = unit.actor.teams;
  if (next.sharing === 'team' && team === undefined)
    throw invalidInput([{ field: 'sharing', message: 'You are in no team to share this with' }]);
  next.team = next.sharing === 'team' ? team : null;
}

/** Certain teams are named where it is shared with certain teams, and nowhere else. */
export async function completeTeams(unit: Unit, next: Values, before: AnyRecord | undefined): Promise<void> {
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

export const viewHooks: RecordHooks = {
  object: 'view',

  /** Keeps nothing that is not a design of the view's own object. */
  beforeWrite(unit, next, before) {
    completeSharing(unit, next, before);
    if (next.design === undefined) return Promise.resolve();
    const object = (before?.object ?? next.object) as ObjectKey;
    const check = (raw: unknown) => checkDesign(raw, unit.catalogue);
    const { text, value } = checkedJson(next.design, 'design', 'The question of a view', check);
    if (value.question.object !== object)
      throw invalidInput([
        { field: 'design', message: 'The question of a view must ask for its own object' },
      ]);
    next.design = text;
    return Promise.resolve();
  },
};

export const listHooks: RecordHooks = {
  object: 'list',
  beforeWrite(unit, next, before) {
    completeSharing(unit, next, before);
    return Promise.resolve();
  },
};
