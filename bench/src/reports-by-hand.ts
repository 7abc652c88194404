import {
  addDays,
  periodMeant,
  startOfDayIn,
  type Day,
  type RelativePeriod,
  type RelativeSpan,
} from '@zawn/core';
import { reported, type ByHand } from './by-hand';

const TODAY = '2026-11-19';
const ZONE = 'Europe/London';
const calendar = { fiscalYearStart: 4, weekStart: 1 } as const;
type Value = string | number | null;
type Row = readonly Value[];

/** The first and the last day of a period by name. */
function days(period: RelativePeriod | RelativeSpan): readonly [Day, Day] {
  const { from, to } = periodMeant(period, { today: TODAY, calendar });
  return [from, to];
}
const YEAR = days({ direction: 'last', count: 12, unit: 'month' });
const THIRTY = days({ direction: 'last', count: 30, unit: 'day' });
const QUARTER = days({ unit: 'fiscalQuarter', offset: 0 });
const FISCAL = days({ unit: 'fiscalYear', offset: 0 });
const SO_FAR = days({ unit: 'fiscalYear', offset: 0, toDate: true });
const within = (column: string, [from, to]: readonly [Day, Day]) =>
  `${column} >= '${from}' AND ${column} < '${to}'`;
const instants = (column: string, [from, to]: readonly [Day, Day]) =>
  `${column} >= '${startOfDayIn(ZONE, from)}' AND ${column} < '${startOfDayIn(ZONE, to)}'`;

const now = reported(`'${TODAY}'`);
const then = reported('d.closedOn');
const RATE = `(SELECT CAST(ROUND(k.rate * 100000) AS INTEGER) FROM rate k WHERE k.currency = d.currency AND k.validFrom <= '${TODAY}' ORDER BY k.validFrom DESC LIMIT 1)`;
const weighted = `CASE WHEN d.currency = 'GBP' THEN (2 * d.value * COALESCE(d.probability, s.probability) + 100) / 200
  ELSE (2 * d.value * COALESCE(d.probability, s.probability) * ${RATE} + 10000000) / 20000000 END`;
const open = `d.deletedAt IS NULL AND d.outcome = 'open'`;
const won = `d.deletedAt IS NULL AND d.outcome = 'won'`;
const noStep = `NOT EXISTS (SELECT 1 FROM activity a WHERE a.deal = d.id AND a.doneAt IS NULL AND a.dueOn IS NOT NULL AND a.deletedAt IS NULL)`;
const sumIf = (condition: string, amount: string) =>
  `COALESCE(SUM(CASE WHEN ${condition} THEN ${amount} END), 0)`;
const countIf = (condition: string) => `COUNT(CASE WHEN ${condition} THEN 1 END)`;

/** A value of sorted ones below which so many percent lie, in proportion between two. */
function percentile(sorted: readonly number[], percent: number): number | null {
  if (sorted.length === 0) return null;
  const at = ((sorted.length - 1) * percent) / 100;
  const [low, high] = [sorted[Math.floor(at)], sorted[Math.ceil(at)]];
  return low + (high - low) * (at - Math.floor(at));
}

/** Reads statements as rows of plain values. */
export class ReportsByHand {
  constructor(private readonly hand: ByHand) {}

  private rows(sql: string): Value[][] {
    return this.hand.all(sql).map((row) => Object.values(row) as Value[]);
  }

  /** The values of each group in rising order, from rows of a group and a value. */
  private sorted(sql: string): Map<Value, number[]> {
    const found = new Map<Value, number[]>();
    for (const [key, value] of this.rows(sql)) {
      const of = found.get(key);
      if (of) of.push(Number(value));
      else found.set(key, [Number(value)]);
    }
    return found;
  }

  /** The innermost rows of a report: its keys, its split's, and what is measured; undefined of those not written by hand. */
  of(key: string): (() => Row[]) | undefined {
    const statement = STATEMENTS[key];
    if (statement) return () => this.rows(statement);
    const more = OTHERS[key];
    return (
      more &&
      (() =>
        more(
          (sql) => this.rows(sql),
          (sql) => this.sorted(sql),
        ))
    );
  }
}

const STATEMENTS: Record<string, string> = {
  'pipeline-by-stage': `SELECT d.stage, d.owner, COUNT(*), SUM(${now}), SUM(${weighted}) FROM deal d JOIN stage s ON s.id = d.stage WHERE ${open} GROUP BY 1, 2`,
  'from-the-company-down': `SELECT p.team, d.owner, d.stage, SUM(${now}), SUM(${weighted}), COUNT(*) FROM deal d JOIN stage s ON s.id = d.stage JOIN person p ON p.id = d.owner WHERE ${open} GROUP BY 1, 2, 3`,
  'closing-by-month': `SELECT date(d.closeOn, 'start of month'), d.stage, SUM(${now}), COUNT(*) FROM deal d WHERE ${open} GROUP BY 1, 2`,
  'close-dates-pushed': `SELECT d.owner, COUNT(*), SUM(d.timesPushed), MAX(d.timesPushed), SUM(${now}) FROM deal d WHERE ${open} AND d.timesPushed >= 1 GROUP BY 1`,
  adrift: `SELECT d.owner, ${countIf(noStep)}, COUNT(*), ${sumIf(noStep, now)} FROM deal d WHERE ${open} GROUP BY 1`,
  'won-against-last-year': `SELECT date(d.closedOn, 'start of month'), SUM(${then}), COUNT(*) FROM deal d WHERE ${won} AND ${within('d.closedOn', FISCAL)} GROUP BY 1`,
  'stage-by-outcome': `SELECT d.stage, d.outcome, COUNT(*), SUM(${reported(`COALESCE(d.closedOn, '${TODAY}')`)}) FROM deal d WHERE d.deletedAt IS NULL AND ${instants('d.createdAt', YEAR)} GROUP BY 1, 2`,
  'win-rate': `SELECT d.owner, ${countIf(`d.outcome = 'won'`)}, ${countIf(`d.outcome = 'lost'`)}, ${sumIf(`d.outcome = 'won'`, then)}, ${sumIf(`d.outcome = 'lost'`, then)} FROM deal d WHERE d.deletedAt IS NULL AND d.outcome IN ('won', 'lost') AND ${within('d.closedOn', SO_FAR)} GROUP BY 1`,
  'lost-by-reason': `SELECT d.lossReason, d.stage, COUNT(*), SUM(${then}) FROM deal d WHERE d.deletedAt IS NULL AND d.outcome = 'lost' AND ${within('d.closedOn', YEAR)} GROUP BY 1, 2`,
  'top-accounts': `SELECT d.account, ${sumIf(`d.outcome = 'won'`, then)} AS won, ${sumIf(`d.outcome = 'lost'`, then)}, ${countIf(`d.outcome = 'won'`)}, ${countIf(`d.outcome = 'lost'`)} FROM deal d WHERE d.deletedAt IS NULL AND d.outcome IN ('won', 'lost') AND ${within('d.closedOn', YEAR)} GROUP BY 1 ORDER BY won DESC LIMIT 15`,
  'won-by-source': `SELECT d.source, SUM(${then}), COUNT(*) FROM deal d WHERE ${won} AND ${within('d.closedOn', YEAR)} GROUP BY 1`,
  'call-outcomes': `SELECT a.owner, a.outcome, COUNT(*), ${countIf('a.outcome IS NULL')} FROM activity a WHERE a.deletedAt IS NULL AND a.kind = 'call' AND ${instants('a.doneAt', THIRTY)} GROUP BY 1, 2`,
  'activities-per-won-deal': `SELECT a.kind, COUNT(*), (SELECT COUNT(*) FROM deal d WHERE ${won} AND ${within('d.closedOn', YEAR)}) FROM activity a JOIN deal d ON d.id = a.deal WHERE a.deletedAt IS NULL AND a.doneAt IS NOT NULL AND ${won} AND ${within('d.closedOn', YEAR)} GROUP BY 1`,
  'accounts-with-gaps': `SELECT d.owner, COUNT(*), ${countIf(`COALESCE(d.industry, '') = ''`)}, ${countIf(`COALESCE(d.country, '') = ''`)}, ${countIf(`COALESCE(d.domain, '') = ''`)} FROM account d WHERE d.deletedAt IS NULL GROUP BY 1`,
  'closed-and-needed': `SELECT p.team, p.id, COALESCE((SELECT SUM(${then}) FROM deal d WHERE ${won} AND d.owner = p.id AND ${within('d.closedOn', QUARTER)}), 0) AS won,
    COALESCE((SELECT SUM(t.amount) FROM target t WHERE t.deletedAt IS NULL AND t.owner = p.id AND ${within('t.startsOn', QUARTER)}), 0) AS target,
    COALESCE((SELECT SUM(${now}) FROM deal d WHERE ${open} AND d.owner = p.id AND ${within('d.closeOn', QUARTER)}), 0) AS expected
    FROM person p WHERE won > 0 OR target > 0 OR expected > 0`,
};

type Rows = (sql: string) => Value[][];
type Sorted = (sql: string) => Map<Value, number[]>;

const OTHERS: Record<string, (rows: Rows, sorted: Sorted) => Row[]> = {
  'activities-by-type': (rows) => {
    const done = (period: readonly [Day, Day]) =>
      rows(
        `SELECT a.owner, a.kind, COUNT(*) FROM activity a WHERE a.deletedAt IS NULL AND ${instants('a.doneAt', period)} GROUP BY 1, 2`,
      );
    // It is compared with as many days before.
    done([addDays(THIRTY[0], -30), THIRTY[0]]);
    return done(THIRTY);
  },
  'stage-conversion': (rows, sorted) => {
    const of = `stagePeriod p JOIN deal d ON d.id = p.deal WHERE d.deletedAt IS NULL AND p.isLast = 1 AND ${instants('p.enteredAt', YEAR)}`;
    const lengths = sorted(
      `SELECT p.stage, p.daysInAll FROM ${of} AND p.daysInAll IS NOT NULL ORDER BY p.stage, p.daysInAll`,
    );
    return rows(
      `SELECT p.stage, COUNT(*), ${countIf(`p.became = 'wentOn'`)}, ${countIf(`p.became = 'still'`)} FROM ${of} GROUP BY 1`,
    ).map((row) => {
      const stays = lengths.get(row[0]) ?? [];
      return [...row, percentile(stays, 50), percentile(stays, 90)];
    });
  },
  'how-far-pushed': (rows, sorted) => {
    const later = `julianday(substr(c.new, 2, 10)) - julianday(substr(c.old, 2, 10))`;
    const of = `change c LEFT JOIN deal d ON d.id = c.record AND d.deletedAt IS NULL WHERE c.object = 'deal' AND c.kind = 'changed' AND c.field = 'closeOn' AND ${instants('c.at', YEAR)}`;
    const far = sorted(
      `SELECT d.owner, CAST(${later} AS INTEGER) AS later FROM ${of} AND ${later} > 0 ORDER BY 1, 2`,
    );
    return rows(
      `SELECT d.owner, ${countIf(`${later} > 0`)}, COUNT(DISTINCT CASE WHEN ${later} > 0 THEN c.record END), ${countIf(`${later} < 0`)} FROM ${of} GROUP BY 1`,
    ).map(([owner, pushes, deals, pulled]) => {
      const own = far.get(owner) ?? [];
      return [owner, pushes, deals, percentile(own, 50), own.at(-1) ?? null, pulled];
    });
  },
  'close-dates-kept': (rows, sorted) => {
    const late = `CAST(julianday(d.closedOn) - julianday(d.closeOn) AS INTEGER)`;
    const of = `deal d WHERE ${won} AND ${within('d.closedOn', YEAR)}`;
    const days = sorted(`SELECT d.owner, ${late} AS late FROM ${of} ORDER BY 1, 2`);
    return rows(
      `SELECT d.owner, COUNT(*), ${countIf(`${late} BETWEEN -14 AND 14`)} FROM ${of} GROUP BY 1`,
    ).map(([owner, count, near]) => [owner, count, percentile(days.get(owner) ?? [], 50), near]);
  },
  sources: (rows, sorted) => {
    const of = `lead l WHERE l.deletedAt IS NULL AND ${instants('l.createdAt', YEAR)}`;
    const hours = sorted(
      `SELECT l.source, l.hoursToTouch FROM ${of} AND l.hoursToTouch IS NOT NULL ORDER BY 1, 2`,
    );
    const worth = new Map(
      rows(
        `SELECT d.source, SUM(${then}) FROM deal d WHERE ${won} AND ${within('d.closedOn', YEAR)} GROUP BY 1`,
      ).map(([source, value]) => [source, value]),
    );
    const leads = new Map(
      rows(`SELECT l.source, COUNT(*), ${countIf(`l.status = 'converted'`)} FROM ${of} GROUP BY 1`).map(
        ([source, ...counts]) => [source, counts],
      ),
    );
    return [...new Set([...leads.keys(), ...worth.keys()])].map((source) => [
      source,
      ...(leads.get(source) ?? [0, 0]),
      percentile(hours.get(source) ?? [], 50),
      worth.get(source) ?? 0,
    ]);
  },
};
