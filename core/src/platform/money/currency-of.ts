const EURO = 'AD AT BE BG CY DE EE ES FI FR GR HR IE IT LT LU LV MC MT NL PT SI SK SM VA';

/** Countries with a money of their own, or that share one other than the euro: what amounts are mostly written in there. */
const OTHERS = `
  AE AED, AR ARS, AU AUD, BR BRL, CA CAD, CH CHF, CL CLP, CN CNY, CO COP, CZ CZK, DK DKK, EG EGP, FO DKK, GB GBP,
  GG GBP, GL DKK, HK HKD, HU HUF, ID IDR, IL ILS, IM GBP, IN INR, IS ISK, JE GBP, JP JPY, KE KES, KR KRW, LI CHF,
  MA MAD, MX MXN, MY MYR, NG NGN, NO NOK, NZ NZD, PE PEN, PH PHP, PK PKR, PL PLN, PR USD, QA QAR, RO RON, RS RSD,
  SA SAR, SE SEK, SG SGD, TH THB, TR TRY, TW TWD, UA UAH, US USD, VN VND, ZA ZAR`;

const currencies = new Map([
  ...EURO.split(' ').map((country) => [country, 'EUR'] as const),
  ...OTHERS.split(',').map((pair) => pair.trim().split(' ') as [string, string]),
]);

/** The currency that a country pays in, as ISO 4217; undefined for countries that are not listed. */
export const currencyOf = (country: string): string | undefined => currencies.get(country);
