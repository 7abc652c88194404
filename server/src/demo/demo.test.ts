import { daysBetween } from '@zawn/core';
import { Database } from '../platform/database/database';
import { startServer } from '../testing';
import { type Book, type Row } from './book';
import { generateDemo } from './generate';

const TODAY = '2026-11-19';
const book = generateDemo(TODAY);
const rows = (table: string) => book.rows(table);
const near = (count: number, wanted: number) => Math.abs(count - wanted) <= wanted * 0.15;

describe('the demo company', () => {
  it('has the numbers it should', () => {
    const wanted = { lead: 600, account: 400, contact: 900, deal: 450, activity: 6000 };
    for (const [table, count] of Object.entries(wanted))
      expect([table, rows(table).length, near(rows(table).length, count)]).toEqual([
        table,
        rows(table).length,
        true,
      ]);
    expect(rows('person').filter(({ role }) => role === 'rep')).toHaveLength(10);
    expect(rows('team')).toHaveLength(4);
    expect(new Set(rows('deal').map(({ currency }) => currency))).toEqual(new Set(['GBP', 'EUR', 'SEK']));
    expect(rows('pipeline').map(({ name }) => name)).toEqual(['Station sales', 'Service renewals']);
  });

  it('fills the grid of every rep: open deals in most stages and in several months', () => {
    const [station] = rows('pipeline');
    const reps = rows('person').filter(({ role }) => role === 'rep');
    for (const { id, name } of reps) {
      const open = rows('deal').filter(
        ({ owner, outcome, pipeline }) => owner === id && outcome === 'open' && pipeline === station.id,
      );
      const stages = new Set(open.map(({ stage }) => stage)).size;
      const months = new Set(open.map(({ closeOn }) => String(closeOn).slice(0, 7))).size;
      expect([name, open.length >= 9, stages >= 3, months >= 3]).toEqual([name, true, true, true]);
    }
  });

  it('is the same for the same day, and moves along with it', () => {
    expect(JSON.stringify(generateDemo(TODAY).rows('deal'))).toBe(JSON.stringify(rows('deal')));
    const later = generateDemo('2027-03-01');
    const newest = (of: Book) =>
      of
        .rows('deal')
        .map(({ createdAt }) => String(createdAt))
        .sort()
        .at(-1) ?? '';
    expect(newest(later) > newest(book)).toBe(true);
  });

  it('happens in the 24 months before today, and never later', () => {
    for (const { at } of rows('change')) expect(String(at) < `${TODAY}T09:30`).toBe(true);
    for (const { createdAt } of rows('deal'))
      expect(daysBetween(String(createdAt).slice(0, 10), TODAY)).toBeLessThanOrEqual(732);
    expect(
      rows('activity').every(
        ({ doneAt, dueOn }) => doneAt !== null || daysBetween(String(dueOn), TODAY) < 60,
      ),
    ).toBe(true);
  });

  it('has seasons, slips, losses with reasons, and people who differ', () => {
    const deals = rows('deal');
    const of = (outcome: string, owner?: unknown) =>
      deals.filter((deal) => deal.outcome === outcome && (owner === undefined || deal.owner === owner));
    expect(of('won').length / (of('won').length + of('lost').length)).toBeGreaterThan(0.25);
    expect(of('won').length / (of('won').length + of('lost').length)).toBeLessThan(0.55);
    expect(of('lost').every(({ lossReason }) => lossReason !== null)).toBe(true);
    expect(new Set(of('lost').map(({ lossReason }) => lossReason)).size).toBeGreaterThanOrEqual(6);
    expect(
      rows('change').filter(({ object, field }) => object === 'deal' && field === 'closeOn').length,
    ).toBeGreaterThan(100);
    const rates = rows('person')
      .filter(({ role }) => role === 'rep')
      .map(({ id }) => of('won', id).length / Math.max(1, of('won', id).length + of('lost', id).length));
    expect(Math.max(...rates) - Math.min(...rates)).toBeGreaterThan(0.15);
    const calls = rows('activity').filter(({ kind, doneAt }) => kind === 'call' && doneAt !== null);
    const without = calls.filter(({ outcome }) => outcome === null).length / calls.length;
    expect(without > 0.05 && without < 0.5).toBe(true);
    const inMonth = (month: string) =>
      deals.filter(({ createdAt }) => String(createdAt).slice(5, 7) === month).length;
    expect(inMonth('03') + inMonth('10')).toBeGreaterThan(inMonth('07') + inMonth('12'));
  });

  it('keeps what the door would have kept: every version logged, every period joined to the next', () => {
    const changes = new Map<string, Set<unknown>>();
    for (const { object, record, unit } of rows('change')) {
      const name = `${object} ${record}`;
      changes.set(name, (changes.get(name) ?? new Set()).add(unit));
    }
    for (const table of ['lead', 'contact', 'account', 'deal', 'activity', 'note']) {
      for (const { id, version } of rows(table))
        expect([table, id, changes.get(`${table} ${id}`)?.size]).toEqual([table, id, version]);
    }
    const periods = new Map<unknown, Row[]>();
    for (const period of rows('stagePeriod'))
      periods.set(period.deal, [...(periods.get(period.deal) ?? []), period]);
    for (const deal of rows('deal')) {
      const own = periods.get(deal.id) ?? [];
      for (let index = 1; index < own.length; index += 1)
        expect(own[index].enteredAt).toBe(own[index - 1].leftAt);
      expect(own.at(-1)).toMatchObject({ stage: deal.stage, enteredAt: deal.stageSince });
      expect(own.at(-1)?.leftAt === null).toBe(deal.outcome === 'open');
    }
  });

  it('is made up: addresses end in .example, numbers are reserved for fiction', () => {
    for (const table of ['lead', 'contact', 'person'])
      for (const { email } of rows(table)) expect(String(email)).toMatch(/^[a-z.-]+@[a-z-]+\.example$/);
    const fiction = /^\+(441632960\d{3}|3532091\d{5}|493023125\d{3}|33199\d{6}|46846500\d{3})$/;
    for (const table of ['lead', 'contact', 'account'])
      for (const { phone } of rows(table)) if (phone !== null) expect(String(phone)).toMatch(fiction);
  });

  it('works on working days, and holds some eight hundred mails', () => {
    const isFree = (at: unknown) => [0, 6].includes(new Date(String(at)).getUTCDay());
    const moments = (table: string, field: string) =>
      rows(table)
        .filter((row) => row[field] !== null)
        .map((row) => row[field]);
    const all: [string, string][] = [
      ['activity', 'doneAt'],
      ['note', 'createdAt'],
      ['mail', 'sentAt'],
      ['deal', 'createdAt'],
      ['lead', 'createdAt'],
      ['contact', 'createdAt'],
      ['account', 'createdAt'],
      ['stagePeriod', 'enteredAt'],
    ];
    for (const [table, field] of all)
      expect([table, moments(table, field).filter(isFree).length]).toEqual([table, 0]);
    expect(rows('mail').length).toBeGreaterThan(780);
    expect(rows('mail').length).toBeLessThan(820);
  });
});

describe('the demo company, laid down', () => {
  it('holds every row that was made up for it', async () => {
    const server = await startServer({ demo: true });
    const { manager } = server.app.get(Database).reading;
    // The first night adds this week's to it.
    const tables = book.tables().filter((table) => table !== 'upkeepWeek');
    const laidDown = await Promise.all(
      tables.map(async (table) => [table, await manager.count(table)] as const),
    );
    await server.close();
    expect(laidDown).toEqual(tables.map((table) => [table, rows(table).length]));
  });
});
