import { dayIn, type AnyRecord, type Day } from '@zawn/core';
import { invalidInput, Problem } from '../../platform/http/problem';
import { type Values } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';
import { type Correction } from './closing-schema';
import { settingsOf } from './settings-of';

/** What is said about one way for a deal to end, and is no longer true once it ended the other way. */
const saidOf = {
  won: ['wonReasons', 'wonBecause'],
  lost: ['lossReason', 'lossComment', 'lostTo', 'tryAgainOn'],
} as const;

interface Closing extends Values {
  outcome: 'won' | 'lost';
  closedOn: Day;
}

/** What is said about it: it ended today, where no day is given. */
type Said = Pick<Closing, 'outcome'> & Partial<Pick<Closing, 'closedOn'>> & object;

/** Closes an open deal; with a date to try again, plans a call on it. */
export async function closeDeal(
  unit: Unit,
  deal: AnyRecord,
  said: Said,
  version = deal.version,
): Promise<AnyRecord> {
  unit.mustMay('closeDeals');
  const { outcome } = said;
  if (deal.outcome !== 'open') throw new Problem('conflict', `This deal is ${String(deal.outcome)} already.`);
  const { timeZone } = await settingsOf(unit);
  const today = dayIn(timeZone, unit.at);
  const closing: Closing = { ...(said as Values), outcome, closedOn: said.closedOn ?? today };
  checkDays(deal, closing, { timeZone, today });
  unit.label ||= `${outcome === 'won' ? 'Won' : 'Lost'}: “${String(deal.name)}”`;
  // What was said when it ended before stands until it ends again.
  const before = [...saidOf.won, ...saidOf.lost].map((key) => [key, null] as const);
  const ending: Values = { ...Object.fromEntries(before), ...closing };
  // A final value other than what the lines come to was said by hand.
  if (typeof closing.value === 'number' && closing.value !== deal.value) ending.valueFrom = 'typed';
  // Whoever it was lost to was in it.
  if (closing.lostTo) ending.competitors = withCompetitor(deal, String(closing.lostTo));
  const closed = await unit.change('deal', deal.id, ending, { version, setter: 'feature' });
  if (closed.tryAgainOn) await unit.create('activity', tryAgain(closed), 'hand', ['owner', 'deal']);
  return closed;
}

/**
 * Says anew how a deal ended: the day, the reasons, a comment, who it was lost to. Which way it ended stays, and so
 * does a call that was planned to try again.
 */
export async function correctEnding(
  unit: Unit,
  deal: AnyRecord,
  said: Partial<Correction>,
  version: number,
): Promise<AnyRecord> {
  unit.mustMay('closeDeals');
  const outcome = deal.outcome === 'won' ? 'won' : 'lost';
  if (deal.outcome === 'open')
    throw new Problem('conflict', 'This deal is open. How it ended is said when it is closed.');
  const other: readonly string[] = saidOf[outcome === 'won' ? 'lost' : 'won'];
  const foreign = Object.keys(said).filter((key) => other.includes(key));
  if (foreign.length > 0)
    throw invalidInput(foreign.map((field) => ({ field, message: `This deal was ${outcome}` })));
  const { timeZone } = await settingsOf(unit);
  const closedOn = said.closedOn ?? (deal.closedOn as Day);
  if (said.closedOn) checkDays(deal, { outcome, closedOn }, { timeZone, today: dayIn(timeZone, unit.at) });
  unit.label = `Changed what was said about how “${String(deal.name)}” ended`;
  const values: Values = { ...said };
  if (said.lostTo) values.competitors = withCompetitor(deal, said.lostTo);
  return unit.change('deal', deal.id, values, { version, setter: 'feature' });
}

/** The competitors of a deal with one more, in the order in which they are kept. */
const withCompetitor = ({ competitors }: AnyRecord, one: string) =>
  [...new Set([...((competitors as string[] | null) ?? []), one])].sort();

/** A deal ends on a day between the one it began on and today; trying again lies ahead. */
function checkDays(
  deal: AnyRecord,
  { closedOn, tryAgainOn }: Closing,
  { timeZone, today }: { timeZone: string; today: Day },
): void {
  const created = dayIn(timeZone, deal.createdAt);
  const faults = [
    ...(closedOn > today ? [{ field: 'closedOn', message: 'Closed on lies in the future' }] : []),
    ...(closedOn < created
      ? [{ field: 'closedOn', message: `Closed on lies before ${created}, when the deal was created` }]
      : []),
    ...(tryAgainOn && String(tryAgainOn) <= today
      ? [{ field: 'tryAgainOn', message: 'Try again on must lie ahead' }]
      : []),
  ];
  if (faults.length > 0) throw invalidInput(faults);
}

function tryAgain(deal: AnyRecord): Values {
  const { id, owner, tryAgainOn } = deal;
  return {
    name: `Try again: ${String(deal.name)}`.slice(0, 200),
    kind: 'call',
    dueOn: tryAgainOn,
    owner,
    deal: id,
  };
}
