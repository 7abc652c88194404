import { addDays, choiceLabel, fieldOf, subjectKeys, type AnyRecord, type Day } from '@zawn/core';
import { faultOfRepeat, nextRepeat, readRepeat } from '@zawn/core/repeats';
import { invalidInput } from '../../platform/http/problem';
import { inheritLinks } from '../../kernel/records/inherited-links';
import { type RecordHooks, type Values } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';
import { affectLinked } from './activity-link-hooks';
import { giveToEach, givenTogether, partsAgain, type DoneWhen } from './together';

/** Keeps how it is repeated as a rule, whatever words it was said in. */
function checkRepeats(next: Values, before: AnyRecord | undefined): void {
  if (typeof next.repeats !== 'string') return;
  const rule = readRepeat(next.repeats);
  const fault =
    rule === undefined
      ? `“${next.repeats}” does not say how it is repeated. Say every Monday, every 2 weeks, or monthly on the last working day`
      : faultOfRepeat(rule, String(next.dueOn ?? before?.dueOn));
  if (rule === undefined || fault) throw invalidInput([{ field: 'repeats', message: String(fault) }]);
  next.repeats = rule;
}

/** Nobody plans for longer: a day so far off is a slip of the hand. */
const YEARS_AHEAD = 50;

function checkDay(unit: Unit, { dueOn }: Values): void {
  if (typeof dueOn !== 'string') return;
  const years = Number(dueOn.slice(0, 4)) - Number(unit.at.slice(0, 4));
  if (years > YEARS_AHEAD)
    throw invalidInput([
      {
        field: 'dueOn',
        message: `Due is in the year ${dueOn.slice(0, 4)}. Say a day within ${YEARS_AHEAD} years`,
      },
    ]);
}

/** What of an activity the next of its kind has as well. */
const ALIKE = [
  'name',
  'kind',
  'dueAt',
  'priority',
  'description',
  'repeats',
  'place',
  ...subjectKeys,
] as const;

/** Plans the next of what is repeated for whoever had it, once it is done: never for a day that is over. */
async function planNextOf(unit: Unit, done: AnyRecord, owners: readonly number[]): Promise<void> {
  const dueOn = done.dueOn as Day;
  const { today } = await unit.context();
  const yesterday = addDays(today, -1);
  const next = nextRepeat(String(done.repeats), dueOn, dueOn > yesterday ? dueOn : yesterday);
  // A rule that names an end has it.
  if (next === undefined) return;
  const values = Object.fromEntries(ALIKE.map((key) => [key, done[key]]));
  const parts = await partsAgain(unit, done);
  // Whoever has left does nothing any more.
  const people = await unit.everyones('person', owners);
  const here = owners.filter((owner) => people.get(owner)?.active === true);
  if (here.length === 0) return;
  await giveToEach(unit, here, done.doneWhen as DoneWhen, (owner, common) =>
    unit.createAlong('activity', { ...values, ...parts, ...common, owner, dueOn: next }, 'feature', [
      ...subjectKeys,
    ]),
  );
}

/**
 * What follows once somebody has done what was planned: where one of several was enough, the others need not do it
 * any more; and what is repeated is planned again once it is done for all.
 */
async function followDone(unit: Unit, done: AnyRecord): Promise<void> {
  const given = await givenTogether(unit, done);
  const open = given.filter((each) => each.doneAt === null);
  if (done.doneWhen === 'one') for (const each of open) await unit.takeAway('activity', each);
  else if (open.length > 0) return;
  if (done.repeats)
    await planNextOf(
      unit,
      done,
      given.map(({ owner }) => Number(owner)),
    );
}

/** Whoever is given something to do hears of it, and whoever gave it when it is done. */
function tellWhoeverElse(unit: Unit, after: AnyRecord, before: AnyRecord | undefined): void {
  const on = { object: 'activity' as const, record: after };
  if (after.doneAt === null && after.owner !== before?.owner)
    unit.tell(Number(after.owner), 'taskAssigned', on, [after.dueOn, after.dueAt].filter(Boolean).join(' '));
  if (isDoneNow(after, before) && after.createdBy !== after.owner && after.createdBy) {
    const outcome = after.outcome
      ? choiceLabel(fieldOf(unit.catalogue, 'activity', 'outcome'), String(after.outcome))
      : '';
    unit.tell(Number(after.createdBy), 'taskDone', on, outcome);
  }
}

const isDoneNow = (after: AnyRecord, before: AnyRecord | undefined) =>
  before?.doneAt === null && after.doneAt !== null;

/** What planning an activity means. */
export const activityHooks: RecordHooks = {
  object: 'activity',
  async beforeWrite(unit, next, before, { checklist, remarks }) {
    checkDay(unit, next);
    checkRepeats(next, before);
    if (checklist) {
      next.steps = checklist.length || null;
      next.stepsDone = checklist.length ? checklist.filter(({ done }) => done === true).length : null;
    }
    if (remarks) next.remarked = remarks.length || null;
    await inheritLinks(unit, next, before);
  },
  async afterWrite(unit, after, before) {
    if (before && after.doneAt !== before.doneAt) await affectLinked(unit, after.id);
    // What is taken back or brought in is no news, and is followed by nothing.
    if (unit.undoes !== undefined || unit.through === 'import') return;
    tellWhoeverElse(unit, after, before);
    if (isDoneNow(after, before) && (after.repeats || after.together)) {
      const { label } = unit;
      await followDone(unit, after);
      unit.label = label;
    }
  },
};
