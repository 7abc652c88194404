import fc from 'fast-check';
import { addDays } from '../../platform/time';
import { faultOfRepeat, nextRepeat, readRepeat, repeatInWords } from './repeats';

const days = (rule: string, from: string, count: number) => {
  const found = [from];
  while (found.length < count) {
    const next = nextRepeat(rule, from, found[found.length - 1]);
    if (next === undefined) break;
    found.push(next);
  }
  return found;
};

describe('the examples of RFC 5545, section 3.8.5.3', () => {
  it.each([
    ['FREQ=DAILY;INTERVAL=2', '1997-09-02', ['1997-09-02', '1997-09-04', '1997-09-06', '1997-09-08']],
    ['FREQ=DAILY;INTERVAL=10', '1997-09-02', ['1997-09-02', '1997-09-12', '1997-09-22', '1997-10-02']],
    [
      'FREQ=WEEKLY;INTERVAL=2;WKST=SU',
      '1997-09-02',
      ['1997-09-02', '1997-09-16', '1997-09-30', '1997-10-14'],
    ],
    [
      'FREQ=WEEKLY;INTERVAL=2;WKST=SU;BYDAY=TU,TH',
      '1997-09-02',
      ['1997-09-02', '1997-09-04', '1997-09-16', '1997-09-18', '1997-09-30', '1997-10-02'],
    ],
    ['FREQ=MONTHLY;BYDAY=1FR', '1997-09-05', ['1997-09-05', '1997-10-03', '1997-11-07', '1997-12-05']],
    [
      'FREQ=MONTHLY;INTERVAL=2;BYDAY=1SU,-1SU',
      '1997-09-07',
      ['1997-09-07', '1997-09-28', '1997-11-02', '1997-11-30', '1998-01-04', '1998-01-25'],
    ],
    ['FREQ=MONTHLY;BYDAY=-2MO', '1997-09-22', ['1997-09-22', '1997-10-20', '1997-11-17', '1997-12-22']],
    ['FREQ=MONTHLY;BYMONTHDAY=-3', '1997-09-28', ['1997-09-28', '1997-10-29', '1997-11-28', '1997-12-29']],
    [
      'FREQ=MONTHLY;BYMONTHDAY=2,15',
      '1997-09-02',
      ['1997-09-02', '1997-09-15', '1997-10-02', '1997-10-15', '1997-11-02'],
    ],
    [
      'FREQ=MONTHLY;INTERVAL=18;BYMONTHDAY=10,11,12,13,14,15',
      '1997-09-10',
      ['1997-09-10', '1997-09-11', '1997-09-12', '1997-09-13', '1997-09-14', '1997-09-15', '1999-03-10'],
    ],
    ['FREQ=YEARLY;BYMONTH=6,7', '1997-06-10', ['1997-06-10', '1997-07-10', '1998-06-10', '1998-07-10']],
    ['FREQ=YEARLY;BYDAY=20MO', '1997-05-19', ['1997-05-19', '1998-05-18', '1999-05-17']],
    ['FREQ=YEARLY;BYWEEKNO=20;BYDAY=MO', '1997-05-12', ['1997-05-12', '1998-05-11', '1999-05-17']],
    [
      'FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13',
      '1998-02-13',
      ['1998-02-13', '1998-03-13', '1998-11-13', '1999-08-13'],
    ],
    [
      'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-2',
      '1997-09-29',
      ['1997-09-29', '1997-10-30', '1997-11-27'],
    ],
    [
      'FREQ=DAILY;UNTIL=19970905T000000Z',
      '1997-09-02',
      ['1997-09-02', '1997-09-03', '1997-09-04', '1997-09-05'],
    ],
  ])('%s from %s', (rule, from, expected) => {
    expect(days(rule, from, expected.length)).toEqual(expected);
    if (rule.includes('UNTIL')) expect(nextRepeat(rule, from, expected[expected.length - 1])).toBeUndefined();
  });
});

describe('the next day', () => {
  const rules = fc.constantFrom(
    'FREQ=DAILY;INTERVAL=3',
    'FREQ=WEEKLY;BYDAY=MO,TH',
    'FREQ=WEEKLY;INTERVAL=2;BYDAY=WE',
    'FREQ=MONTHLY;BYMONTHDAY=-1',
    'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1',
    'FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=29',
  );

  it('never goes back and never skips one', () => {
    fc.assert(
      fc.property(rules, fc.nat(4000), fc.nat(400), (rule, start, later) => {
        const from = addDays('2020-01-01', start);
        const after = addDays(from, later);
        const next = nextRepeat(rule, from, after);
        if (next === undefined) return;
        expect(next > after).toBe(true);
        // Nothing of the rule lies between: from the day before it, it comes again.
        expect(nextRepeat(rule, from, addDays(next, -1))).toBe(next);
        for (
          let day = addDays(after, 1), looks = 0;
          day < next && looks < 40;
          day = addDays(day, 1), looks += 1
        )
          expect(nextRepeat(rule, from, day)).toBe(next);
      }),
      { numRuns: 120 },
    );
  });

  it('is a day, whatever the clocks do', () => {
    expect(days('FREQ=DAILY', '2026-03-28', 3)).toEqual(['2026-03-28', '2026-03-29', '2026-03-30']);
    expect(days('FREQ=WEEKLY', '2026-10-18', 3)).toEqual(['2026-10-18', '2026-10-25', '2026-11-01']);
  });
});

describe('words', () => {
  it.each([
    ['every Monday', 'FREQ=WEEKLY;BYDAY=MO'],
    ['Every  mon and Thu', 'FREQ=WEEKLY;BYDAY=MO,TH'],
    ['every other Friday', 'FREQ=WEEKLY;INTERVAL=2;BYDAY=FR'],
    ['every day', 'FREQ=DAILY'],
    ['every working day', 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR'],
    ['every 2 weeks', 'FREQ=WEEKLY;INTERVAL=2'],
    ['every 3 months', 'FREQ=MONTHLY;INTERVAL=3'],
    ['monthly', 'FREQ=MONTHLY'],
    ['monthly on the last working day', 'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1'],
    ['monthly on the 15th', 'FREQ=MONTHLY;BYMONTHDAY=15'],
    ['every month on the first Monday', 'FREQ=MONTHLY;BYDAY=1MO'],
    ['monthly on the last day', 'FREQ=MONTHLY;BYMONTHDAY=-1'],
    ['freq=weekly;byday=mo', 'FREQ=WEEKLY;BYDAY=MO'],
  ])('%j say %s', (words, rule) => {
    expect(readRepeat(words)).toBe(rule);
    expect(faultOfRepeat(rule, '2026-11-19')).toBeUndefined();
  });

  it.each([
    '',
    'sometimes',
    'every',
    'every blue moon',
    'monthly on the fifth elephant',
    'every other working day',
  ])('%j say nothing', (words) => {
    expect(readRepeat(words)).toBeUndefined();
  });

  it.each([
    ['FREQ=WEEKLY;BYDAY=MO', 'every week on Monday'],
    ['FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1', 'every month on the last working day'],
  ])('%s is read as %j', (rule, words) => {
    expect(repeatInWords(rule)).toBe(words);
  });
});

describe('a rule that cannot be followed', () => {
  it.each([
    ['FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=31', 'This never comes again'],
    ['FREQ=MONTHLY;BYMONTHDAY=31;BYMONTH=4', 'This never comes again'],
    ['FREQ=DAILY;UNTIL=20200101T000000Z', 'This never comes again'],
    ['FREQ=HOURLY', 'Say how it is repeated'],
    ['FREQ=DAILY;COUNT=3', 'COUNT cannot be said here'],
    ['FREQ=DAILY;BYHOUR=9', 'BYHOUR cannot be said here'],
    ['FREQ=DAILY;INTERVAL=0', 'after 1 to 366, not after 0'],
    ['FREQ=DAILY;INTERVAL=5000', 'after 1 to 366, not after 5000'],
    ['BYDAY=MO', 'Say how it is repeated'],
    ['FREQ=FORTNIGHTLY', 'Say how it is repeated'],
  ])('%s: %s', (rule, fault) => {
    expect(faultOfRepeat(rule, '2026-11-19')).toContain(fault);
  });
});
