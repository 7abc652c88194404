import { numberBy, patternFault } from './number-pattern';
import { readHolidays } from './read-holidays';

describe('a number by its pattern', () => {
  it.each([
    ['D-{0}', 1001, 1, 'D-1001'],
    ['D-{YYYY}-{0000}', 1, 42, 'D-2026-0042'],
    ['{YY}/{000}', 1, 1234, '26/1234'],
    ['A{00}B', 5, 1, 'A05B'],
  ])('%s from %i', (pattern, from, nth, number) => {
    expect(numberBy({ pattern, from, isYearly: false }, nth, '2026-11-19')).toBe(number);
  });

  it.each([
    ['D-{0}', false, undefined],
    ['D-', false, 'The number belongs in it once'],
    ['{0}{00}', false, 'The number belongs in it once'],
    ['{MM}-{0}', false, '{MM} is unknown'],
    ['D-{0', false, 'A bracket has no other'],
    ['{YY}{YYYY}{0}', false, 'The year belongs in it once'],
    ['D-{0}', true, 'the year belongs in it: {YYYY}'],
    [`${'x'.repeat(40)}{0}`, false, 'at most 40 characters'],
  ])('%s, yearly %s', (pattern, isYearly, fault) => {
    const found = patternFault({ pattern, from: 1, isYearly });
    if (fault === undefined) expect(found).toBeUndefined();
    else expect(found).toContain(fault);
  });
});

const calendar = (...events: string[]) =>
  [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Quayside//Holidays//EN',
    ...events.flatMap((event, index) => ['BEGIN:VEVENT', `UID:${index}`, ...event.split('|'), 'END:VEVENT']),
    'END:VCALENDAR',
  ].join('\r\n');
const read = (...events: string[]) => readHolidays(calendar(...events), '2026-11-19');

describe('a calendar of holidays', () => {
  it('gives days of this year and those to come, of each day all names', async () => {
    const { holidays, faults } = await read(
      'SUMMARY:Boxing Day|DTSTART;VALUE=DATE:20261226|DTEND;VALUE=DATE:20261227',
      'SUMMARY:Harbour fair|DTSTART;VALUE=DATE:20270601|DTEND;VALUE=DATE:20270603',
      'SUMMARY:St Piran|DTSTART;VALUE=DATE:20270305',
      'SUMMARY:Works outing|DTSTART;VALUE=DATE:20270305',
    );
    expect(faults).toEqual([]);
    expect(holidays).toEqual([
      { day: '2026-12-26', name: 'Boxing Day' },
      { day: '2027-03-05', name: 'St Piran, Works outing' },
      { day: '2027-06-01', name: 'Harbour fair' },
      { day: '2027-06-02', name: 'Harbour fair' },
    ]);
  });

  it('has what comes again each year, but for what was called off or put elsewhere', async () => {
    const { holidays } = await read(
      'SUMMARY:New Year|DTSTART;VALUE=DATE:20100101|RRULE:FREQ=YEARLY|EXDATE;VALUE=DATE:20280101',
      'SUMMARY:Spring day|DTSTART;VALUE=DATE:20260504|RRULE:FREQ=YEARLY;BYMONTH=5;BYDAY=1MO;COUNT=2',
    );
    expect(holidays.map(({ day }) => day)).toEqual([
      '2026-01-01',
      '2026-05-04',
      '2027-01-01',
      '2027-05-03',
      '2029-01-01',
      '2030-01-01',
      '2031-01-01',
    ]);
    const text = calendar('SUMMARY:Fair|DTSTART;VALUE=DATE:20270101|RRULE:FREQ=YEARLY;COUNT=2').replace(
      'END:VCALENDAR',
      'BEGIN:VEVENT\r\nUID:0\r\nRECURRENCE-ID;VALUE=DATE:20280101\r\nSUMMARY:Fair\r\nDTSTART;VALUE=DATE:20280103\r\nEND:VEVENT\r\nEND:VCALENDAR',
    );
    const moved = await readHolidays(text, '2026-11-19');
    expect(moved.holidays.map(({ day }) => day)).toEqual(['2027-01-01', '2028-01-03']);
  });

  it('says what is no holiday', async () => {
    const { holidays, faults } = await read(
      'SUMMARY:Stand-up|DTSTART:20261120T090000Z|DTEND:20261120T091500Z',
      'SUMMARY:Regatta|DTSTART;VALUE=DATE:20270701|DTEND;VALUE=DATE:20270702|STATUS:CANCELLED',
      'SUMMARY:Summer|DTSTART;VALUE=DATE:20270701|DTEND;VALUE=DATE:20270901',
      'SUMMARY:Long ago|DTSTART;VALUE=DATE:20010101',
      'DTSTART;VALUE=DATE:20270101',
      'SUMMARY:No day',
    );
    expect(holidays).toEqual([]);
    expect(faults).toEqual([
      '“Stand-up” is not a whole day',
      '“Regatta” was called off',
      '“Summer” lasts longer than 14 days',
      '“Long ago” lies before 2026 or after 2031',
      'An event without a name is left out',
      '“No day” has no day',
    ]);
    const own = Array.from(
      { length: 1001 },
      () => 'SUMMARY:Run|DTSTART;VALUE=DATE:20270101|RRULE:FREQ=DAILY',
    );
    expect((await read(...own)).faults).toEqual([expect.stringContaining('1001 events')]);
    for (const text of ['', 'Boxing Day;26.12.2026', 'BEGIN:VCARD\nEND:VCARD', calendar()])
      expect((await readHolidays(text, '2026-11-19')).faults).toHaveLength(1);
  });
});
