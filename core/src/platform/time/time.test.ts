import fc from 'fast-check';
import {
  addDays,
  addMonths,
  dayIn,
  daysBetween,
  fiscalQuarterLabel,
  fiscalYearLabel,
  isDay,
  isWithin,
  periodOf,
  periodUnits,
  instantIn,
  readWhen,
  startOfDayIn,
} from '.';

const april = { fiscalYearStart: 4, weekStart: 1 };
const anyDay = fc.integer({ min: -20_000, max: 40_000 }).map((days) => addDays('1990-01-01', days));
const anyRules = fc.record({
  fiscalYearStart: fc.integer({ min: 1, max: 12 }),
  weekStart: fc.integer({ min: 0, max: 6 }),
});

describe('calendar dates', () => {
  it('are real days only', () => {
    expect(isDay('2028-02-29')).toBe(true);
    for (const wrong of ['2026-02-29', '2026-13-01', '2026-1-1', '26-01-01', '', null, 20260101])
      expect(isDay(wrong)).toBe(false);
  });

  it('add months to the last day there is', () => {
    expect(addMonths('2027-01-31', 1)).toBe('2027-02-28');
    expect(addMonths('2028-01-31', 1)).toBe('2028-02-29');
    expect(addMonths('2026-03-31', -13)).toBe('2025-02-28');
  });

  it('count days both ways', () => {
    fc.assert(
      fc.property(
        anyDay,
        fc.integer({ min: -5000, max: 5000 }),
        (day, days) => daysBetween(day, addDays(day, days)) === days,
      ),
    );
  });
});

describe('periods', () => {
  it('take fiscal quarters from the fiscal year start', () => {
    expect(periodOf('fiscalQuarter', '2026-11-19', april)).toEqual({ from: '2026-10-01', to: '2027-01-01' });
    expect(periodOf('fiscalQuarter', '2026-03-31', april)).toEqual({ from: '2026-01-01', to: '2026-04-01' });
    expect(periodOf('fiscalYear', '2026-03-31', april)).toEqual({ from: '2025-04-01', to: '2026-04-01' });
    expect(periodOf('fiscalQuarter', '2026-02-10', { fiscalYearStart: 2, weekStart: 1 })).toEqual({
      from: '2026-02-01',
      to: '2026-05-01',
    });
  });

  it('take weeks from the week start', () => {
    expect(periodOf('week', '2026-11-22', april)).toEqual({ from: '2026-11-16', to: '2026-11-23' });
    expect(periodOf('week', '2026-11-22', { ...april, weekStart: 0 })).toEqual({
      from: '2026-11-22',
      to: '2026-11-29',
    });
  });

  it('name the fiscal quarter with both years when it needs two', () => {
    expect(fiscalQuarterLabel('2026-11-19', april)).toBe('Q3 2026/27');
    expect(fiscalQuarterLabel('2026-11-19', { fiscalYearStart: 1, weekStart: 1 })).toBe('Q4 2026');
    expect(fiscalQuarterLabel('2000-02-01', april)).toBe('Q4 1999/00');
  });

  it('hold their day, and follow one another without gap', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...periodUnits),
        anyDay,
        anyRules,
        fc.integer({ min: -30, max: 30 }),
        (unit, day, rules, offset) => {
          expect(isWithin(day, periodOf(unit, day, rules))).toBe(true);
          expect(periodOf(unit, day, rules, offset).to).toBe(periodOf(unit, day, rules, offset + 1).from);
        },
      ),
    );
  });
});

describe('a time on the clocks of a zone', () => {
  it('is the instant at which they show it, and the next one there is where it is skipped', () => {
    expect(instantIn('Europe/London', '2026-07-01', '09:30')).toBe('2026-07-01T08:30:00.000Z');
    expect(instantIn('Europe/London', '2026-03-29', '01:30')).toBe('2026-03-29T01:30:00.000Z');
  });
});

describe('days in a time zone', () => {
  it('begin at local midnight, summer time and winter time', () => {
    expect(startOfDayIn('Europe/London', '2026-07-01')).toBe('2026-06-30T23:00:00.000Z');
    expect(startOfDayIn('Europe/London', '2026-12-01')).toBe('2026-12-01T00:00:00.000Z');
    expect(startOfDayIn('Asia/Kathmandu', '2026-12-01')).toBe('2026-11-30T18:15:00.000Z');
  });

  it('begin at the first moment there is when midnight is skipped', () => {
    // In Santiago the clocks go from 24:00 on 5 September 2026 to 01:00.
    expect(startOfDayIn('America/Santiago', '2026-09-06')).toBe('2026-09-06T04:00:00.000Z');
  });

  it('contain the moment they begin and not the one before', () => {
    const zones = fc.constantFrom(
      'Europe/London',
      'America/New_York',
      'Australia/Lord_Howe',
      'Pacific/Apia',
      'UTC',
    );
    fc.assert(
      fc.property(zones, fc.integer({ min: 0, max: 4000 }), (zone, days) => {
        const day = addDays('2020-01-01', days);
        const start = startOfDayIn(zone, day);
        expect(dayIn(zone, start)).toBe(day);
        expect(dayIn(zone, new Date(Date.parse(start) - 1).toISOString()) < day).toBe(true);
      }),
    );
  });
});

describe('working days in words', () => {
  const calendar = {
    workingDays: ['mon', 'tue', 'wed', 'thu', 'fri'] as const,
    opens: '09:00',
    closes: '17:00',
    holidays: new Map([['2026-12-25', 'Christmas Day']]),
  };
  it.each([
    ['next working day', '2026-12-28'],
    ['in 3 working days', '2026-12-30'],
    ['2 wd 9:30', '2026-12-29'],
    ['5 business days', '2027-01-01'],
  ])('%s', (words, dueOn) => {
    expect(readWhen(words, '2026-12-24', calendar)?.dueOn).toBe(dueOn);
    expect(readWhen(words, '2026-12-24')).toBeUndefined();
  });
});

describe('what a fiscal year is called', () => {
  it.each([
    [4, undefined, '2026/27'],
    [4, 'begins', '2026'],
    [4, 'ends', '2027'],
    [1, 'ends', '2026'],
  ] as const)('from month %i, by %s', (fiscalYearStart, fiscalYearName, label) => {
    const rules = { fiscalYearStart, weekStart: 1, fiscalYearName };
    expect(fiscalYearLabel('2026-11-19', rules)).toBe(label);
    expect(fiscalQuarterLabel('2026-11-19', rules)).toBe(`Q${fiscalYearStart === 4 ? 3 : 4} ${label}`);
  });
});
