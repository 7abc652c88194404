import { type Day } from '@zawn/core';
import { type Book, type Row } from './book';
import { type Random } from './random';

/** Steps that tasks of some names are done in. */
const STEPS: readonly (readonly string[])[] = [
  ['Check the serial numbers', 'Attach the calibration sheet', 'Ask for the site contact'],
  ['Measure the mast', 'Photograph the cable run', 'Note the mains supply', 'Agree a day for the survey'],
  ['Read the last report', 'List what is still open'],
];

/** What was remarked at a second of the last recordings, by whoever leads the team. */
const REMARKS: readonly (readonly [second: number, text: string])[] = [
  [8, 'Asks first what the gauge is for'],
  [21, 'Names the price without being asked'],
  [14, 'Good end: a day and a name'],
];

/** The share of tasks that have steps. */
const WITH_STEPS = 0.35;
const MEETINGS = 12;

/** Steps of open tasks, who else comes to meetings, and what is worth hearing in recordings. */
export function fillTasks(book: Book, random: Random, today: Day): void {
  const isOpen = ({ doneAt, dueOn }: Row) => doneAt === null && String(dueOn) >= today;
  const happening = ({ createdAt, owner }: Row) => ({ at: String(createdAt), person: Number(owner) });
  const open = book.rows('activity').filter(isOpen);
  const tasks = open.filter(({ kind }) => kind === 'task' && random.chance(WITH_STEPS));
  for (const task of tasks) {
    const steps = random.pick(STEPS);
    const isBegun = random.chance(0.4);
    Object.assign(task, { steps: steps.length, stepsDone: isBegun ? 1 : 0 });
    for (const [position, name] of steps.entries())
      book.create('checklistItem', happening(task), {
        ...{ activity: task.id, position, name },
        done: isBegun && position === 0,
      });
  }
  const contacts = book.rows('contact');
  for (const meeting of open.filter(({ kind }) => kind === 'meeting').slice(0, MEETINGS)) {
    const other = contacts.find(
      ({ id, account, owner }) =>
        account !== null && account === meeting.account && id !== meeting.contact && owner === meeting.owner,
    );
    if (other)
      book.create('activityLink', happening(meeting), {
        ...{ activity: meeting.id, position: 0 },
        ...{ lead: null, contact: other.id, account: null, deal: null },
      });
  }
  const recorded = book.rows('activity').filter(({ recording }) => recording !== null);
  for (const [index, [second, text]] of REMARKS.entries()) {
    const call = recorded.at(-1 - index);
    if (!call) continue;
    call.remarked = 1;
    const { team } = book.row('person', Number(call.owner));
    const leader = book.rows('person').find((each) => each.team === team && each.id !== call.owner);
    const by = { at: `${today}T07:30:00.000Z`, person: Number(leader?.id ?? call.owner) };
    book.create('recordingRemark', by, { activity: call.id, position: 0, second, text });
  }
}
