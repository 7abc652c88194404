import { date, money, number, region, shortMoney, writeLike } from './format';

const plain = (text: string) => text.replace(/[\u00A0\u202F]/g, ' ');

afterAll(() => writeLike({ locale: 'en-GB', currencies: [] }));

describe('how things are written', () => {
  it('is as is usual in the person’s language', () => {
    writeLike({ locale: 'en-GB', currencies: [] });
    expect([date('2026-11-19'), number(12345.6), money(4_600_000, 'GBP')]).toEqual([
      '19 Nov 2026',
      '12,345.6',
      '£46,000',
    ]);
    writeLike({ locale: 'de-DE', currencies: [] });
    expect([date('2026-11-19'), number(12345.6), money(4_600_000, 'GBP'), region('NO')].map(plain)).toEqual([
      '19. Nov. 2026',
      '12.345,6',
      '46.000 £',
      'Norwegen',
    ]);
  });

  it.each([
    [{ symbol: 'Skr', decimals: null, place: null }, 'Skr 46,001', '-Skr 46,001'],
    [{ symbol: null, decimals: 2, place: 'after' }, '46,000.50 kr', '-46,000.50 kr'],
    [{ symbol: 'SEK', decimals: 0, place: 'before' }, 'SEK 46,001', '-SEK 46,001'],
  ] as const)('is for a currency as the organisation wants it: %j', (wanted, amount, less) => {
    writeLike({ locale: 'en-GB', currencies: [{ currency: 'SEK', ...wanted }] });
    expect([money(4_600_050, 'SEK'), money(-4_600_050, 'SEK')].map(plain)).toEqual([amount, less]);
    expect(money(4_600_000, 'GBP')).toBe('£46,000');
    expect(shortMoney(4_600_000, 'SEK')).toMatch(/46K/i);
  });

  it('has a name, which is another where something is written otherwise', () => {
    const one = writeLike({ locale: 'en-GB', currencies: [] });
    expect(writeLike({ locale: 'en-GB', currencies: [] })).toBe(one);
    expect(writeLike({ locale: 'nb-NO', currencies: [] })).not.toBe(one);
  });
});
