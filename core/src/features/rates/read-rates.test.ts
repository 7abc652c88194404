import { rebase } from '../../platform/money/rebase';
import { convert, rateOn } from '../../platform/money';
import { readRates } from './read-rates';

describe('rates as they come', () => {
  it.each([
    ['tabs, as pasted', 'EUR\t2026-01-01\t0.86\nSEK\t2026-01-01\t0.0757'],
    ['semicolons and decimal commas', 'Währung;Datum;Kurs\nEUR;01.01.2026;0,86\nSEK;01.01.2026;0,0757'],
    ['commas and headings', 'date,currency,rate\n2026-01-01,EUR,0.86\n2026-01-01,SEK,0.0757\n'],
    ['another order', '0.86;eur;2026-01-01\r\n0.0757;sek;2026-01-01\r\n'],
    ['quotes and a byte order mark', '\uFEFF"EUR","2026-01-01","0.86"\n"SEK","2026-01-01","0.0757"'],
  ])('%s', (_, text) => {
    expect(readRates(text, 'GBP')).toEqual({
      rates: [
        { currency: 'EUR', validFrom: '2026-01-01', rate: 0.86 },
        { currency: 'SEK', validFrom: '2026-01-01', rate: 0.0757 },
      ],
      faults: [],
    });
  });

  it.each([
    ['GBP;2026-01-01;1', /needs no rate/],
    ['EUR;2026-13-01;1', /one date/],
    ['EUR;01/02/2026;1', /one date/],
    ['EUR;2026-01-01;0', /more than nothing/],
    ['EUR;2026-01-01;-2', /more than nothing/],
    ['EUR;2026-01-01;much', /one rate/],
    ['XXQ;2026-01-01;1', /currency code/],
    ['EUR;2026-01-01;1\nEUR;2026-01-01;2', /line 1 already/],
    ['', /no rate in it/],
    ['<Envelope/>', /no reference rates/],
    ['<Cube time="2026-01-01"><Cube currency="USD"', /cannot be read|no reference/],
  ])('%s is refused by its line', (text, message) => {
    expect(readRates(text, 'GBP').faults.map((fault) => fault.message)).toContainEqual(
      expect.stringMatching(message),
    );
  });

  const bank = (days: string) =>
    `<?xml version="1.0" encoding="UTF-8"?><gesmes:Envelope xmlns:gesmes="http://www.gesmes.org/xml/2002-08-01" xmlns="http://www.ecb.int/vocabulary/2002-08-01/eurofxref"><Cube>${days}</Cube></gesmes:Envelope>`;
  const day = (time: string, ...rates: [string, string][]) =>
    `<Cube time='${time}'>${rates.map(([currency, rate]) => `<Cube currency='${currency}' rate='${rate}'/>`).join('')}</Cube>`;

  it('reference rates of the European Central Bank are turned towards the reporting currency', () => {
    const text = bank(day('2026-11-19', ['USD', '1.08'], ['GBP', '0.86'], ['JPY', '162']));
    expect(readRates(text, 'GBP').rates).toEqual([
      { currency: 'EUR', validFrom: '2026-11-19', rate: 0.86 },
      { currency: 'JPY', validFrom: '2026-11-19', rate: 0.00530864197531 },
      { currency: 'USD', validFrom: '2026-11-19', rate: 0.796296296296 },
    ]);
    expect(readRates(text, 'EUR').rates.find(({ currency }) => currency === 'USD')?.rate).toBe(
      0.925925925926,
    );
    expect(readRates(text, 'SEK').faults[0].message).toMatch(/no rate of SEK on 2026-11-19/);
  });
});

describe('another reporting currency', () => {
  const rates = [
    { currency: 'EUR', validFrom: '2026-01-01', rate: 0.86 },
    { currency: 'EUR', validFrom: '2026-03-01', rate: 0.88 },
    { currency: 'SEK', validFrom: '2026-02-01', rate: 0.0757 },
  ];

  it('keeps what each amount is worth on each day', () => {
    const rebased = rebase(rates, 'GBP', 'EUR') ?? [];
    expect(rebased.some(({ currency }) => currency === 'EUR')).toBe(false);
    for (const on of ['2025-06-01', '2026-01-01', '2026-02-14', '2026-03-01', '2026-12-31']) {
      const euro = rateOn(rates, 'GBP', 'EUR', on) ?? 0;
      for (const currency of ['GBP', 'SEK']) {
        const before = (rateOn(rates, 'GBP', currency, on) ?? 0) / euro;
        expect(rateOn(rebased, 'EUR', currency, on)).toBeCloseTo(before, 10);
        expect(convert(1_000_000, rateOn(rebased, 'EUR', currency, on) ?? 0)).toBe(
          Math.round(1_000_000 * before),
        );
      }
    }
  });

  it('needs a rate', () => {
    expect(rebase(rates, 'GBP', 'USD')).toBeUndefined();
  });
});
