import {
  blankValues,
  builtIn,
  catalogueWith,
  fieldOf,
  type CustomField,
  type Field,
  type RecordOf,
} from '../../kernel/catalogue';
import { carryOvers, mayCarry, proposeConversion, usualCarryOver } from '.';

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

const usual = carryOvers(builtIn, []);

describe('proposing a conversion', () => {
  it('carries fields of the same key over and takes value and close date from budget and time frame', () => {
    const { contact, account, deal } = proposeConversion(lead, usual, '2026-11-19', 'GBP');
    expect(contact).toMatchObject({
      name: 'Runa Seagrave',
      role: 'Harbour master',
      email: 'runa@seagrave.example',
      owner: 7,
    });
    expect(account).toMatchObject({ name: 'Seagrave Harbour Trust', domain: 'seagrave.example', owner: 7 });
    expect(deal).toMatchObject({
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
    const { account, deal } = proposeConversion(person, usual, '2026-11-19', 'GBP');
    expect(account).toBeNull();
    expect(deal).toMatchObject({ name: 'Runa Seagrave', value: 0, currency: 'GBP', closeOn: '2027-02-17' });
  });
});

describe('carrying fields over', () => {
  const shoe = {
    id: 1,
    version: 1,
    object: 'lead',
    key: 'x_depth',
    label: 'Depth',
    type: 'number',
    position: 1,
    retired: false,
  } as unknown as CustomField;
  const own = catalogueWith({
    customFields: [
      shoe,
      { ...shoe, id: 2, object: 'account' },
      { ...shoe, id: 3, object: 'deal', type: 'text' },
    ],
    choiceLists: [],
  });

  it('goes by the key, custom fields included, where the other holds the same', () => {
    expect(usualCarryOver(own, 'x_depth')).toEqual({ contact: null, account: 'x_depth', deal: null });
    expect(usualCarryOver(own, 'city')).toEqual({ contact: 'city', account: 'city', deal: null });
    expect(usualCarryOver(own, 'organisation')).toEqual({ contact: null, account: 'name', deal: null });
  });

  it('follows what the organisation says, and leaves out fields that are gone', () => {
    const said = [
      { field: 'campaign', contact: null, account: null, deal: 'externalId' },
      { field: 'city', contact: 'x_gone', account: null, deal: null },
      { field: 'role', contact: 'description', account: null, deal: null },
    ];
    const carried = carryOvers(own, said);
    expect(carried.get('city')).toEqual({ contact: null, account: null, deal: null });
    const { contact, deal } = proposeConversion(
      { ...lead, campaign: 'Spring' },
      carried,
      '2026-11-19',
      'GBP',
    );
    expect(deal.externalId).toBe('Spring');
    expect(contact.description).toBe('Harbour master');
    expect(contact).not.toHaveProperty('city');
  });

  it('never carries one kind of value into a field of another', () => {
    const field = (object: 'lead' | 'deal', key: string) => fieldOf(own, object, key) as Field;
    expect(mayCarry(field('lead', 'x_depth'), field('deal', 'x_depth'))).toBe(false);
    expect(mayCarry(field('lead', 'budget'), field('deal', 'value'))).toBe(true);
    expect(mayCarry(field('lead', 'interest'), field('deal', 'description'))).toBe(true);
    expect(mayCarry(field('lead', 'source'), field('deal', 'lossReason'))).toBe(false);
    expect(mayCarry(field('lead', 'campaign'), field('deal', 'number'))).toBe(false);
  });
});
