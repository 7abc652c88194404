import BetterSqlite from 'better-sqlite3';
import { dialect } from '@zawn/server/dist/platform/database/dialect';

type Row = Record<string, unknown>;

/** The same work as the bench asks of Zawn, written by hand for SQLite. */
export class ByHand {
  private readonly database: BetterSqlite.Database;

  constructor(private readonly file: string) {
    this.database = new BetterSqlite(file, { readonly: true });
  }

  all(sql: string, ...parameters: unknown[]): Row[] {
    return this.database.prepare<unknown[], Row>(sql).all(...parameters);
  }

  one(sql: string, ...parameters: unknown[]): Row {
    return this.database.prepare<unknown[], Row>(sql).get(...parameters) ?? {};
  }

  /** How the engine goes about a statement of Zawn's, which may use its functions. */
  plan(sql: string, ...parameters: unknown[]): string[] {
    const prepared = new BetterSqlite(this.file, { readonly: true });
    dialect.prepareConnection(prepared);
    const steps = prepared.prepare<unknown[], Row>(`EXPLAIN QUERY PLAN ${sql}`).all(...parameters);
    prepared.close();
    return steps.map(({ detail }) => String(detail));
  }

  close(): void {
    this.database.close();
  }
}

/** A value in the reporting currency at the rate of a day, rounded half away from zero: rates have five digits. */
export const reported = (day: string) =>
  `CASE WHEN d.currency = 'GBP' THEN d.value ELSE (2 * d.value * (SELECT CAST(ROUND(k.rate * 100000) AS INTEGER) FROM rate k WHERE k.currency = d.currency AND k.validFrom <= ${day} ORDER BY k.validFrom DESC LIMIT 1) + 100000) / 200000 END`;

export const sql = {
  deals: (today: string) => ({
    where: `d.deletedAt IS NULL AND d.outcome = 'open' AND d.closeOn >= ? AND d.closeOn < ? AND ${reported(`'${today}'`)} >= ?`,
  }),
  openByStageAndOwner: (today: string) =>
    `SELECT d.stage, d.owner, COUNT(*) AS n, SUM(${reported(`'${today}'`)}) AS value FROM deal d WHERE d.deletedAt IS NULL GROUP BY d.stage, d.owner`,
  closedByMonth: `SELECT date(d.closedOn, 'start of month') AS month, d.outcome, COUNT(*) AS n, SUM(${reported('d.closedOn')}) AS value FROM deal d WHERE d.deletedAt IS NULL AND d.outcome IN ('won', 'lost') GROUP BY month, d.outcome`,
};
