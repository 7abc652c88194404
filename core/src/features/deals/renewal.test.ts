import { catalogueWith, type AnyRecord } from '../../kernel/catalogue';
import { renewalDue, renewalName, renewalValues } from './renewal';

const won = {
  id: 9,
  name: 'Tide gauges',
  outcome: 'won',
  closedOn: '2026-01-31',
  account: 3,
  contact: null,
  owner: 5,
  currency: 'EUR',
  value: 120_000,
  source: 'fair',
  competitors: null,
  tags: ['coast'],
  description: 'Not taken along',
} as unknown as AnyRecord;

describe('the renewal of a won deal', () => {
  it('is due so many months after it was won, on the last day of a shorter month', () => {
    expect(renewalDue(won, { renewsIn: 2, renewsAfter: 12 })).toBe('2027-01-31');
    expect(renewalDue(won, { renewsIn: 2, renewsAfter: 1 })).toBe('2026-02-28');
  });

  it('is there for won deals only, and where the pipeline says where and when', () => {
    expect(renewalDue({ ...won, outcome: 'open' }, { renewsIn: 2, renewsAfter: 12 })).toBeUndefined();
    expect(renewalDue(won, { renewsIn: null, renewsAfter: 12 })).toBeUndefined();
    expect(renewalDue(won, { renewsIn: 2, renewsAfter: null })).toBeUndefined();
    expect(renewalDue(won, undefined)).toBeUndefined();
  });

  it('is counted in its name, however often it is renewed', () => {
    const names = [won.name as string];
    for (let count = 0; count < 3; count += 1) names.push(renewalName(names[count]));
    expect(names.slice(1)).toEqual([
      'Renewal: Tide gauges',
      'Renewal 2: Tide gauges',
      'Renewal 3: Tide gauges',
    ]);
    expect(renewalName('x'.repeat(200))).toHaveLength(200);
  });

  it('takes over who and what it is about, without choices that are not offered any more', () => {
    const retired = { key: 'fair', label: 'Trade fair', retired: true as const };
    const catalogue = catalogueWith({
      customFields: [],
      choiceLists: [{ list: 'source', choices: JSON.stringify([retired]) }],
    });
    const begins = { due: '2027-01-31', today: '2026-06-01', pipeline: 2, stage: 8 };
    expect(renewalValues(catalogue, won, begins)).toEqual({
      name: 'Renewal: Tide gauges',
      account: 3,
      contact: null,
      owner: 5,
      currency: 'EUR',
      value: 120_000,
      source: null,
      competitors: null,
      tags: ['coast'],
      pipeline: 2,
      stage: 8,
      closeOn: '2027-01-31',
      renewalOf: 9,
    });
    expect(renewalValues(catalogue, won, { ...begins, today: '2027-02-03' }).closeOn).toBe('2027-02-03');
  });
});
