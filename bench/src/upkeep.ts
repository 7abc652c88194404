import {
  addDays,
  allOf,
  countsIn,
  startOfDayIn,
  upkeepKindsOf,
  upkeepQuestions,
  type Actor,
  type Day,
} from '@zawn/core';
import { type Gate } from '@zawn/server/dist/kernel/questions/gate';
import { reported, type ByHand } from './by-hand';

type Counts = Record<string, number>;

const kinds = upkeepKindsOf([]);
const asked = upkeepQuestions(kinds);

/** What is wrong with what some people own, or everybody, counted by Zawn. */
export async function upkeepByZawn(gate: Gate, actor: Actor, owners?: readonly number[]): Promise<Counts> {
  const whose = owners && ({ field: 'owner', is: 'anyOf', value: [...owners] } as const);
  const answers = await Promise.all(
    asked.map(({ question }) => {
      const where = allOf(question.where, whose);
      return gate.figures(actor, where ? { ...question, where } : question);
    }),
  );
  return { ...countsIn(asked, answers).all.wrong };
}

const count = (key: string, condition: string) => `COUNT(CASE WHEN ${condition} THEN 1 END) AS "${key}"`;
/** The clock of the organisation is an hour ahead in summer. */
const summers = [2023, 2024, 2025, 2026].map(
  (year) =>
    `(d.stageSince >= strftime('%Y-%m-%dT01', '${year}-03-31', 'weekday 0', '-7 days') AND d.stageSince < strftime('%Y-%m-%dT01', '${year}-10-31', 'weekday 0', '-7 days'))`,
);
const stageDay = `date(d.stageSince, CASE WHEN ${summers.join(' OR ')} THEN '+1 hour' ELSE '+0 hours' END)`;

/** The same counts by hand: each table gone through once. */
export function upkeepByHand(hand: ByHand, today: Day, owners?: readonly number[]): Counts {
  const owned = (alias: string) => (owners ? ` AND ${alias}.owner IN (${owners.join(', ')})` : '');
  const before = (days: number) => startOfDayIn('Europe/London', addDays(today, -days));
  const leavers = (key: string) => count(key, 'p.active = 0');
  const isStale = `julianday('${today}') - julianday(${stageDay}) > s.usualDays`;
  const noNextStep =
    'NOT EXISTS (SELECT 1 FROM activity t WHERE t.deal = d.id AND t.doneAt IS NULL AND t.deletedAt IS NULL AND t.dueOn IS NOT NULL)';
  const statements = [
    `SELECT ${[
      count('adrift', noNextStep),
      count('pastClose', `d.closeOn < '${today}'`),
      count('stale', isStale),
      count('oftenPushed', 'd.timesPushed >= 3'),
      count('guideOverdue', `d.guideOpen >= 1 AND ${isStale}`),
      count('noValue', `${reported(`'${today}'`)} <= 0`),
      count('noAccount', 'd.account IS NULL'),
      count('noContact', 'd.contact IS NULL'),
      count('noDecider', 'd.deciderNamed = 0'),
      leavers('dealsOfLeavers'),
    ].join(
      ', ',
    )} FROM deal d JOIN stage s ON s.id = d.stage JOIN person p ON p.id = d.owner WHERE d.deletedAt IS NULL AND d.outcome = 'open'${owned('d')}`,
    `SELECT ${count('noReason', 'd.lossReason IS NULL')} FROM deal d WHERE d.deletedAt IS NULL AND d.outcome = 'lost'${owned('d')}`,
    `SELECT ${[
      count('untouched', `l.firstTouchAt IS NULL AND l.createdAt < '${before(3)}'`),
      count('longOpen', `l.createdAt < '${before(90)}'`),
      leavers('leadsOfLeavers'),
    ].join(
      ', ',
    )} FROM lead l JOIN person p ON p.id = l.owner WHERE l.deletedAt IS NULL AND l.status NOT IN ('converted', 'disqualified')${owned('l')}`,
    `SELECT ${count('noOutcome', 'a.outcome IS NULL')} FROM activity a WHERE a.deletedAt IS NULL AND a.kind IN ('call', 'meeting') AND a.doneAt >= '${before(89)}' AND a.doneAt < '${before(-1)}'${owned('a')}`,
    `SELECT ${count('unreachable', `COALESCE(k.email, '') = '' AND COALESCE(k.phone, '') = '' AND COALESCE(k.mobile, '') = ''`)} FROM contact k WHERE k.deletedAt IS NULL${owned('k')}`,
    `SELECT ${leavers('accountsOfLeavers')} FROM account a JOIN person p ON p.id = a.owner WHERE a.deletedAt IS NULL${owned('a')}`,
  ];
  return Object.assign({}, ...statements.map((statement) => hand.one(statement))) as Counts;
}

/** Counts in the order of what is looked for, to be held against each other. */
export const inOrderOfKinds = (counts: Counts): [key: string, count: number][] =>
  kinds.map(({ key }) => [key, counts[key] ?? 0]);
