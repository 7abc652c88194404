import { progressIn, progressReport } from '.';
import { builtIn, type AnyRecord, type ObjectKey } from '../../kernel/catalogue';
import { inWords } from '../../kernel/questions';
import { askedInLondon as context } from '../../kernel/questions/testing';
import { allBehind, recordsBehind } from '../reports';
import { answeredFrom } from '../reports/testing';
import { checkReport } from '../reports/report-schema';

const head = { version: 1, createdBy: 1, createdAt: '2026-01-01T00:00:00.000Z', updatedAt: '' };
let last = 0;
const record = (values: object) => ({ ...head, id: (last += 1), ...values }) as unknown as AnyRecord;
const deal = (outcome: string, value: number, probability = 50, owner = 1) =>
  record({
    outcome,
    value,
    probability,
    owner,
    currency: 'GBP',
    closeOn: '2026-12-01',
    closedOn: outcome === 'open' ? null : '2026-11-01',
  });
const target = (owner: number | null, team: number | null, amount: number) =>
  record({ owner, team, amount, currency: 'GBP', startsOn: '2026-10-01' });
const THIS_QUARTER = { unit: 'fiscalQuarter', offset: 0 } as const;
const around = { find: () => undefined, linking: () => [], rates: [] };

async function progress(deals: AnyRecord[], targets: AnyRecord[], more = {}) {
  const design = progressReport(undefined, THIS_QUARTER, more);
  expect(checkReport(design, builtIn).faults).toEqual([]);
  const records: Partial<Record<ObjectKey, AnyRecord[]>> = { deal: deals, target: targets };
  const { rows } = await answeredFrom(design, records, context, around);
  return progressIn(design, rows[0]);
}

describe('progress', () => {
  it('says what is attained, still needed, and covered', async () => {
    const deals = [deal('won', 60), deal('open', 80), deal('lost', 40)];
    expect(await progress(deals, [target(1, null, 100), target(null, 2, 5000)])).toEqual({
      won: { count: 1, value: 60 },
      lost: { count: 1, value: 40 },
      open: { count: 1, value: 80, weighted: 40 },
      target: 100,
      attainment: 0.6,
      gap: 40,
      coverage: 2,
      winRate: { byCount: 0.5, byValue: 0.6 },
    });
  });

  it('needs nothing more once the target is reached', async () => {
    expect(await progress([deal('won', 120), deal('open', 5)], [target(1, null, 100)])).toMatchObject({
      attainment: 1.2,
      gap: 0,
      coverage: null,
    });
  });

  it('has no attainment without a target, and no rate where nothing was closed', async () => {
    expect(await progress([deal('open', 5)], [])).toMatchObject({
      target: null,
      attainment: null,
      gap: 0,
      coverage: null,
      winRate: { byCount: null, byValue: null },
    });
  });

  it('is held to the targets named instead of those of people', async () => {
    const ofTeam = { targets: { field: 'team', is: 'anyOf', value: [2] } };
    const targets = [target(1, null, 100), target(null, 2, 240)];
    expect(await progress([deal('won', 60)], targets, ofTeam)).toMatchObject({
      target: 240,
      attainment: 0.25,
    });
  });

  it('opens won deals by when they closed and open ones by when they should', () => {
    const wording = { catalogue: builtIn, listName: String, nameOf: () => '', day: String, money: String };
    const design = progressReport({ field: 'owner', is: 'anyOf', value: ['@me'] }, THIS_QUARTER);
    const behind = (key: string) => {
      const figure = design.figures.find((each) => each.key === key);
      const all = allBehind(design, key, context);
      expect(recordsBehind(design, context, { keys: [], figure })).toEqual(all);
      return inWords(all, wording);
    };
    expect(behind('won')).toBe(
      'Deals where owner is me and closed on is in this fiscal quarter and outcome is Won',
    );
    expect(behind('expected')).toBe(
      'Deals where outcome is Open and owner is me and close date is in this fiscal quarter',
    );
  });
});
