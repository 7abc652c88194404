import { builtIn, type FieldValue, type LoggedChange } from '@zawn/core';
import { changesInWords } from './change-in-words';

const wording = {
  catalogue: builtIn,
  named: (object: string | undefined, id: number) =>
    ({
      person: ['', 'Tamsin Rudd', 'Ewan Castellin'],
      stage: ['', 'Survey booked', 'Survey done'],
      pipeline: ['', 'Station sales', 'Service renewals'],
    })[object ?? '']?.[id],
  day: (day: string) => day,
  dayOf: (instant: string) => instant.slice(0, 10),
  money: (amount: number) => `£${amount / 100}`,
};

const change = (
  field: string | null,
  before: FieldValue,
  after: FieldValue,
  more: Partial<LoggedChange> = {},
): LoggedChange => ({
  id: 1,
  at: '2026-11-19T09:30:00.000Z',
  unit: 1,
  person: 1,
  through: 'hand',
  object: 'deal',
  record: 1,
  kind: 'changed',
  field,
  old: JSON.stringify(before),
  new: JSON.stringify(after),
  ...more,
});
const words = (...changes: LoggedChange[]) => changesInWords(changes, wording);

describe('a change in words', () => {
  it('says what was and what is now', () => {
    expect(words(change('closeOn', '2026-03-14', '2026-05-02'))).toBe(
      'Close date was 2026-03-14, now 2026-05-02',
    );
    expect(words(change('stage', 1, 2))).toBe('Stage moved from Survey booked to Survey done');
    expect(words(change('owner', 1, 2))).toBe('Owner was Tamsin Rudd, now Ewan Castellin');
    expect(words(change('pipeline', 1, 2))).toBe('Pipeline was Station sales, now Service renewals');
    expect(words(change('account', 1, 2))).toBe('Account changed');
    expect(words(change('externalId', null, 'A-1'))).toBe('External id is now A-1');
    expect(words(change('externalId', 'A-1', null))).toBe('External id was A-1, now empty');
  });

  it('joins what was changed together', () => {
    expect(words(change('stage', 1, 2), change('value', 1000, 500))).toBe(
      'Stage moved from Survey booked to Survey done; Value was £10, now £5',
    );
  });

  it('says how a deal ended in one sentence', () => {
    expect(words(change('outcome', 'open', 'won'), change('wonBecause', null, 'Local service'))).toBe(
      'Won: Local service',
    );
    expect(
      words(
        change('outcome', 'open', 'won'),
        change('wonReasons', null, ['service', 'trust']),
        change('wonBecause', null, 'Seen working'),
      ),
    ).toBe('Won: Service, They know us, Seen working');
    expect(
      words(
        change('outcome', 'open', 'lost'),
        change('lossReason', null, 'competitor'),
        change('lostTo', null, 'Pentrose'),
      ),
    ).toBe('Lost: Chose another supplier, to Pentrose');
    expect(words(change('outcome', 'lost', 'open'))).toBe('Reopened');
  });

  it('says how a record came to be, and by what', () => {
    expect(words(change(null, null, null, { kind: 'created', object: 'lead', through: 'import' }))).toBe(
      'Lead created by import',
    );
    expect(words(change('status', 'working', 'converted', { object: 'lead' }))).toBe('Lead converted');
    expect(words(change('value', 500, 1000, { through: 'undo' }))).toBe(
      'Value was £5, now £10, undoing an earlier change',
    );
  });
});
