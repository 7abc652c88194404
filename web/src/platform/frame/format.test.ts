import {
  briefMoney,
  clock,
  counted,
  date,
  initials,
  money,
  nearDate,
  percent,
  shortMoney,
  size,
} from './format';

const TODAY = '2026-11-19';

describe('a day, as one speaks of it', () => {
  it.each([
    ['2026-11-19', 'today'],
    ['2026-11-20', 'tomorrow'],
    ['2026-11-18', 'yesterday'],
    ['2026-11-26', 'Thu 26 Nov'],
    ['2026-03-02', 'Mon 2 Mar'],
    ['2025-11-19', '19 Nov 2025'],
    ['2028-02-29', '29 Feb 2028'],
  ])('%s is %s', (day, words) => {
    expect(nearDate(day, TODAY)).toBe(words);
  });

  it('has its year where it stands alone', () => {
    expect(date('2026-11-19')).toBe('19 Nov 2026');
  });
});

describe('an instant', () => {
  it('is told by the clocks of the organisation', () => {
    expect(clock('2026-07-01T08:30:00.000Z', 'Europe/London')).toBe('09:30');
    expect(clock('2026-12-01T08:30:00.000Z', 'Europe/London')).toBe('08:30');
    expect(clock('2026-12-01T08:30:00.000Z', 'Asia/Kathmandu')).toBe('14:15');
  });
});

describe('money', () => {
  it('is whole where it is read, in the units of its currency', () => {
    expect(money(4_600_000, 'GBP')).toBe('£46,000');
    expect(money(1250, 'JPY')).toBe('¥1,250');
  });

  it('is shorter where room is dear', () => {
    expect([shortMoney(8_650_000, 'GBP'), briefMoney(8_650_000, 'GBP')]).toEqual(['£86.5k', '£87k']);
    expect(shortMoney(123_456_789_00, 'EUR')).toBe('€123.5m');
    expect(shortMoney(99, 'GBP')).toBe('£1');
  });
});

describe('figures and names', () => {
  it('count one and many', () => {
    expect([counted(1, 'deal'), counted(1200, 'deal'), counted(2, 'entry', 'entries')]).toEqual([
      '1 deal',
      '1,200 deals',
      '2 entries',
    ]);
    expect(percent(0.474)).toBe('47%');
  });

  it('give a file’s size in the larger unit it fills', () => {
    expect([size(1), size(412_300), size(25_000_000)]).toEqual(['1 kB', '413 kB', '25 MB']);
  });

  it('take the first letters of two names', () => {
    expect([initials('Tamsin Rudd'), initials('Mary  Anne Quill'), initials('zawn')]).toEqual([
      'TR',
      'MA',
      'Z',
    ]);
  });
});
