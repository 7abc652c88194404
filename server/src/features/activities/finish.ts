import Joi from 'joi';
import { subjectKeys, type AnyRecord, type FieldValue } from '@zawn/core';
import { type Values } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';

/** What is planned next, in the same unit as what was done. */
export type NextStep = Record<string, FieldValue>;

/** What came of an activity. */
export interface Ending {
  result?: string | null;
  outcome?: string | null;
  next?: NextStep | null;
}

/** How an ending is sent. */
export const ending = {
  result: Joi.string().max(5000).allow('', null).label('Note'),
  outcome: Joi.string().max(60).allow(null).label('Outcome'),
  next: Joi.object().unknown().allow(null).label('Next step'),
};

/** Finishes an activity now: what came of it, and what follows. */
export async function finish(
  unit: Unit,
  activity: AnyRecord,
  how: Ending,
  version: number,
): Promise<AnyRecord> {
  const { result = null, outcome = null, next = null } = how;
  unit.label = `Done: “${String(activity.name)}”`;
  const done = { doneAt: unit.at, doneBy: unit.actor.personId, result, outcome };
  const finished = await unit.change('activity', activity.id, done, { version, setter: 'feature' });
  await planNext(unit, activity, next);
  return finished;
}

/** Plans what follows an activity, on the same records where nothing else is said. */
export async function planNext(
  unit: Unit,
  activity: AnyRecord,
  next: NextStep | null | undefined,
): Promise<void> {
  if (!next) return;
  const subjects = sameSubjects(activity);
  const follows = Object.keys(subjects).filter((subject) => next[subject] === undefined);
  await unit.create('activity', { ...subjects, owner: unit.actor.personId, ...next }, 'hand', follows);
}

/** The records an activity hangs on, for the one that follows it. */
export function sameSubjects(activity: AnyRecord): Values {
  return Object.fromEntries(subjectKeys.map((subject) => [subject, activity[subject]]));
}
