import { randomUUID } from 'node:crypto';
import { IsNull } from 'typeorm';
import { partsOf, subjectKeys, type AnyRecord } from '@zawn/core';
import { type Values } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';

/** A task is given to at most so many people: more are told in other ways. */
export const MOST_PEOPLE = 50;

/** Whether a task of several is done once everyone has done it, or once one of them has. */
export type DoneWhen = 'all' | 'one';

/**
 * Gives several people one task: each has an activity of their own, which is on their Today, reminds them, and is
 * counted as theirs.
 */
export async function giveToEach(
  unit: Unit,
  people: readonly number[],
  doneWhen: DoneWhen,
  plan: (owner: number, common: Values) => Promise<AnyRecord>,
): Promise<AnyRecord[]> {
  const common: Values = people.length > 1 ? { together: randomUUID(), doneWhen } : {};
  const given: AnyRecord[] = [];
  for (const owner of people) given.push(await plan(owner, common));
  if (people.length > 1) unit.label = `“${String(given[0].name)}” given to ${people.length} people`;
  return given;
}

/** The activities of everybody who was given a task together with this one, this one among them. */
export async function givenTogether(unit: Unit, { together, id }: AnyRecord): Promise<AnyRecord[]> {
  if (typeof together !== 'string') return [...(await unit.everyones('activity', [id])).values()];
  const rows = await unit.manager.find<{ id: number }>('activity', {
    where: { together, deletedAt: IsNull() } as object,
    select: { id: true },
    order: { id: 'ASC' },
  });
  return [
    ...(
      await unit.everyones(
        'activity',
        rows.map((row) => row.id),
      )
    ).values(),
  ];
}

/** The parts of a kind that an activity has, in their order. */
export async function partsOfActivity(
  unit: Unit,
  object: 'checklistItem' | 'activityLink',
  activity: number,
): Promise<AnyRecord[]> {
  const kind = partsOf('activity').find((each) => each.object === object);
  return kind ? unit.partsOn(kind, activity) : [];
}

/** What an activity has of parts that the next of its kind begins with: its steps, none done, and what it is about. */
export async function partsAgain(unit: Unit, { id }: AnyRecord): Promise<Record<string, unknown>> {
  const steps = await partsOfActivity(unit, 'checklistItem', id);
  const links = await partsOfActivity(unit, 'activityLink', id);
  const again = {
    checklist: steps.map(({ name }) => ({ name })),
    alsoAbout: links.map((link) => Object.fromEntries(subjectKeys.map((key) => [key, link[key]]))),
  };
  return Object.fromEntries(Object.entries(again).filter(([, list]) => list.length > 0));
}
