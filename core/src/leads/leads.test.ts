import { blankValues, builtIn, type RecordOf } from '../catalogue';
import { proposeConversion } from '.';

const lead = {
  ...blankValues(builtIn, 'lead'),
  id: 1,
  version: 1,
  createdAt: '2026-11-01T08:00:00.000Z',
  createdBy: 1,
  updatedAt: '2026-11-01T08:00:00.000Z',
  name: 'Runa Seagrave',
  organisation: 'Seagrave Harbour Trust',
  role: 'Harbour master',
  email: 'runa@seagrave.example',
  phone: '+441632960001',
  web: null,
  externalId: null,
  city: 'Seagrave',
  country: 'GB',
  status: 'working',
  source: 'fair',
  campaign: null,
  interest: 'waves',
  budget: 4_500_000,
  currency: 'EUR',
  timeFrame: 'month',
  description: null,
  tags: null,
  owner: 7,
  convertedAt: null,
  contact: null,
  account: null,
  deal: null,
} as unknown as RecordOf<'lead'>;

describe('proposing a conversion', () => {
  it('carries fields of the same key over and takes value and close date from budget and time frame', () => {
    const { contact, account, deal } = proposeConversion(lead, '2026-11-19', 'GBP');
    expect(contact).toMatchObject({
      name: 'Runa Seagrave',
      role: 'Harbour master',
      email: 'runa@seagrave.example',
      owner: 7,
    });
    expect(account).toMatchObject({ name: 'Seagrave Harbour Trust', domain: 'seagrave.example', owner: 7 });
    expect(deal).toEqual({
      name: 'Seagrave Harbour Trust: waves',
      value: 4_500_000,
      currency: 'EUR',
      closeOn: '2026-12-19',
      source: 'fair',
    });
  });

  it('makes no account for a private person, and uses the organisation’s currency without a budget', () => {
    const person = {
      ...lead,
      organisation: null,
      interest: null,
      budget: null,
      currency: null,
      timeFrame: null,
    };
    const { account, deal } = proposeConversion(person, '2026-11-19', 'GBP');
    expect(account).toBeNull();
    expect(deal).toMatchObject({ name: 'Runa Seagrave', value: 0, currency: 'GBP', closeOn: '2027-02-17' });
  });
});
