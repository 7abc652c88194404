import { workday } from './workday';
import { addDays, daysBetween, roundHalfAway, toMinor, type Day } from '@zawn/core';
import { type Book, type Changed, type Row } from './book';
import { type Company, type Stage } from './company';
import { currencyIn, type Account } from './market';
import { type Random } from './random';
import { competitors, renewals, stations, winReasons } from './words';

export interface DealLife {
  id: number;
  kind: DealStart['kind'];
  account: Account;
  contact: number;
  createdOn: Day;
  /** The day it was closed; null while it is open. */
  closedOn: Day | null;
  outcome: 'open' | 'won' | 'lost';
}

export interface DealStart {
  account: Account;
  contact: number;
  createdOn: Day;
  kind: 'station' | 'renewal';
  source: string;
  lead?: number;
}

/** Pounds in one unit of each currency, near enough for a price list. */
/** What a unit of each currency is worth in pounds. */
export const POUNDS = { GBP: 1, EUR: 0.86, SEK: 0.075 } as const;

/** Likelihood of getting past a stage of station sales; renewals are mostly kept. */
const PASSES = { station: [0.74, 0.82, 0.8, 0.68, 0.92], renewal: [0.9, 0.92, 0.97] };

const lossWeights = {
  early: { budget: 30, timing: 26, noContact: 24, fit: 14, price: 6 },
  late: { price: 34, competitor: 30, noDecision: 18, budget: 12, timing: 6 },
} as const;

const lossComments: Record<string, string> = {
  price: 'About a tenth above the other offer.',
  competitor: 'Went with the supplier of their old stations.',
  budget: 'The board moved the money to the sea wall.',
  noDecision: 'Nobody would sign. May come back next year.',
};

/** Plays a deal through from its first day to its end or to today. */
export function liveDeal(
  book: Book,
  random: Random,
  company: Company,
  start: DealStart,
  today: Day,
): DealLife {
  const { account, contact, kind, createdOn } = start;
  const { owner } = account;
  const pipeline = company.pipelines[kind === 'station' ? 0 : 1];
  const [subject, pounds] = random.pick(kind === 'station' ? stations[account.industry] : renewals);
  const currency = currencyIn(account.country) as keyof typeof POUNDS;
  const price = Math.round((pounds * random.spread(0.35)) / POUNDS[currency] / 100) * 100;
  const usual = pipeline.stages.reduce((sum, { usualDays }) => sum + usualDays, 0);
  const at = (day: Day, hour = random.int(8, 16)) =>
    `${day}T${String(hour).padStart(2, '0')}:${random.int(10, 59)}:00.000Z`;

  const created = at(createdOn, 9);
  const row: Row = {
    name: `${account.name}: ${subject}`,
    number: `D-${1001 + book.count('deal')}`,
    account: account.id,
    contact,
    pipeline: pipeline.id,
    stage: pipeline.stages[0].id,
    value: toMinor(price, currency),
    valueFrom: 'typed',
    typedValue: null,
    linesValue: null,
    currency,
    probability: null,
    closeOn: workday(addDays(createdOn, Math.round(usual * random.spread(0.25)))),
    source: start.source,
    competitors: random.chance(0.3) ? JSON.stringify([random.pick(competitors)[0]]) : null,
    description: null,
    owner: owner.id,
    outcome: 'open',
    closedOn: null,
    wonReasons: null,
    wonBecause: null,
    lossReason: null,
    lossComment: null,
    lostTo: null,
    tryAgainOn: null,
    timesPushed: null,
    timesReopened: null,
    renewalOf: null,
    lastTouchAt: null,
    deciderNamed: null,
    guideOpen: null,
    guideDone: null,
    lead: start.lead ?? null,
    stageSince: created,
  };
  const id = book.create(
    'deal',
    { at: created, person: owner.id, through: start.lead ? 'conversion' : 'hand' },
    row,
  );
  const life: DealLife = { id, kind, account, contact, createdOn, closedOn: null, outcome: 'open' };
  let period = openStagePeriod(book, id, pipeline.stages[0], created, owner.id);
  let day = createdOn;

  for (const [index, stage] of pipeline.stages.entries()) {
    const days = Math.max(1, Math.round(stage.usualDays * owner.pace * random.spread(0.55) * 1.15));
    const until = workday(addDays(day, days));
    slip(book, random, life, day, until < today ? until : today, owner.slips, at);
    if (until >= today) return life;
    if (index >= 2 && random.chance(0.22)) revise(book, random, life, until, at);
    const moment = { at: at(until), person: owner.id };
    const passes = random.chance(PASSES[kind][index] + owner.skill);
    const last = index === pipeline.stages.length - 1;
    if (passes && !last) {
      const next = pipeline.stages[index + 1];
      const unit = book.change('deal', id, moment, { stage: next.id, stageSince: moment.at });
      Object.assign(period, { leftAt: moment.at, leftUnit: unit });
      period = openStagePeriod(book, id, next, moment.at, owner.id, unit);
      day = until;
      continue;
    }
    const ending = passes ? winning(random) : losing(random, index >= 3 ? 'late' : 'early', until);
    const unit = book.change('deal', id, moment, {
      ...ending,
      ...withWinner(book.row('deal', id), ending),
      closedOn: until,
    });
    Object.assign(period, { leftAt: moment.at, leftUnit: unit });
    return { ...life, closedOn: until, outcome: passes ? 'won' : 'lost' };
  }
  return life;
}

function openStagePeriod(
  book: Book,
  deal: number,
  stage: Stage,
  enteredAt: string,
  person: number,
  unit: number | null = null,
): Row {
  return book.period({
    deal,
    stage: stage.id,
    enteredAt,
    leftAt: null,
    person,
    through: 'hand',
    unit,
    leftUnit: null,
  });
}

/** Pushes the close date when it comes near and the deal does not; some leave it standing in the past. */
function slip(
  book: Book,
  random: Random,
  life: DealLife,
  from: Day,
  until: Day,
  slips: number,
  at: (day: Day) => string,
): void {
  for (let day = addDays(from, 7); day < until; day = addDays(day, 7)) {
    const row = book.row('deal', life.id);
    const closeOn = String(row.closeOn);
    if (daysBetween(day, closeOn) > 10 || !random.chance(slips * 0.6)) continue;
    if (workday(day) >= until) break;
    const later = workday(addDays(closeOn > day ? closeOn : day, random.int(10, 45)));
    const timesPushed = Number(row.timesPushed ?? 0) + 1;
    const happening = { at: at(workday(day)), person: life.account.owner.id };
    book.change('deal', life.id, happening, { closeOn: later, timesPushed });
  }
}

/** A revised price, more often down than up. */
function revise(book: Book, random: Random, life: DealLife, on: Day, at: (day: Day) => string): void {
  const value = Number(book.row('deal', life.id).value);
  const revised = roundHalfAway((value * (0.8 + random.unit() * 0.32)) / 10_000) * 10_000;
  book.change('deal', life.id, { at: at(on), person: life.account.owner.id }, { value: revised });
}

function winning(random: Random): Changed {
  if (!random.chance(0.8)) return { outcome: 'won' };
  const { comment, reasons } = random.pick(winReasons);
  return { outcome: 'won', wonBecause: comment, wonReasons: reasons };
}

/** The competitors of a deal, whoever it was lost to among them. */
function withWinner({ competitors: named }: Row, { lostTo }: Changed): Changed {
  if (typeof lostTo !== 'string') return {};
  const known = named === null ? [] : (JSON.parse(String(named)) as string[]);
  return { competitors: [...new Set([...known, lostTo])].sort() };
}

function losing(random: Random, when: keyof typeof lossWeights, on: Day): Row {
  const lossReason: string = random.weighted<string>(lossWeights[when]);
  return {
    outcome: 'lost',
    lossReason,
    lossComment: random.chance(0.5) ? (lossComments[lossReason] ?? null) : null,
    lostTo: lossReason === 'competitor' ? random.pick(competitors)[0] : null,
    tryAgainOn: random.chance(0.2) ? addDays(on, 180) : null,
  };
}
