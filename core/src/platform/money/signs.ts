import { isCurrency } from './currencies';

/**
 * Currencies by the sign that stands beside an amount, the most traded first where several share one. Signs of one
 * currency alone stand before those of several that end alike: `US$` before `$`.
 */
const SIGNS: readonly (readonly [sign: string, ...currencies: string[]])[] = [
  ['US$', 'USD'],
  ['CA$', 'CAD'],
  ['C$', 'CAD'],
  ['AU$', 'AUD'],
  ['A$', 'AUD'],
  ['NZ$', 'NZD'],
  ['HK$', 'HKD'],
  ['S$', 'SGD'],
  ['R$', 'BRL'],
  ['MX$', 'MXN'],
  ['£', 'GBP'],
  ['€', 'EUR'],
  ['euros', 'EUR'],
  ['euro', 'EUR'],
  ['$', 'USD', 'CAD', 'AUD', 'NZD', 'HKD', 'SGD', 'MXN'],
  ['¥', 'JPY', 'CNY'],
  ['円', 'JPY'],
  ['元', 'CNY'],
  ['₹', 'INR'],
  ['₩', 'KRW'],
  ['₪', 'ILS'],
  ['₺', 'TRY'],
  ['₽', 'RUB'],
  ['руб.', 'RUB'],
  ['руб', 'RUB'],
  ['₴', 'UAH'],
  ['zł', 'PLN'],
  ['kč', 'CZK'],
  ['ft', 'HUF'],
  ['lei', 'RON'],
  ['лв', 'BGN'],
  ['fr.', 'CHF'],
  ['sfr.', 'CHF'],
  ['kr.', 'DKK', 'SEK', 'NOK', 'ISK'],
  ['kr', 'SEK', 'NOK', 'DKK', 'ISK'],
  ['r', 'ZAR'],
];

/** What stands beside an amount, and the currencies it may mean. */
export interface CurrencySign {
  sign: string;
  currencies: readonly string[];
}

/** An amount as it is written, apart from what says its currency. */
export interface SignedAmount {
  number: string;
  /** Undefined when nothing beside the number says which money it is. */
  sign?: CurrencySign;
}

/** The currencies that a text beside an amount may mean: `€`, `kr`, `USD`; undefined for any other text. */
export function currencySign(text: string): CurrencySign | undefined {
  const code = text.toUpperCase();
  if (/^[A-Z]{3}$/.test(code) && isCurrency(code)) return { sign: text, currencies: [code] };
  const known = SIGNS.find(([sign]) => sign.toLowerCase() === text.toLowerCase());
  return known && { sign: known[0], currencies: known.slice(1) };
}

const DIGIT = /\d/;
const PLAIN = /^\d[\d.]*$/;

/**
 * Takes a sign or code off an amount: `€ 12,00`, `1 234,50 €`, `USD 1200`, `-£5`, `(£5)`.
 * @returns the number as it is written, and the sign; the whole text as the number when what stands beside it is
 * no currency.
 */
export function withoutSign(text: string): SignedAmount {
  // Most amounts are nothing but a number.
  if (PLAIN.test(text)) return { number: text };
  const first = text.search(DIGIT);
  if (first < 0) return { number: text };
  const digit = text.length - 1 - [...text].reverse().findIndex((letter) => DIGIT.test(letter));
  // `1.2k` is a number in short; the k of `kr` is none of it.
  const last = /^k(?!\p{L})/iu.test(text.slice(digit + 1)) ? digit + 1 : digit;
  const before = text.slice(0, first);
  // `500,-` and `500:-` are round sums of whatever money it is.
  const after = text.slice(last + 1).replace(/^[,.:][-–]/, '');
  // Minus signs and brackets belong to the number, wherever the sign of the currency stands; a point before the first
  // digit is that of a sign, as in `kr.500`.
  const outside = /^([-−–+(]*)(.*?)([-−–+(]*)$/su.exec(before.trim());
  const behind = /^([-−–)]*)(.*?)([-−–)]*)$/su.exec(after.trim());
  if (!outside || !behind) return { number: text };
  const number = `${outside[1]}${outside[3]}${text.slice(first, last + 1)}${behind[1]}${behind[3]}`;
  const signs = [outside[2].trim(), behind[2].trim()].filter((sign) => sign !== '');
  const [one, other = one] = signs.flatMap((sign) => currencySign(sign) ?? []);
  const isUnderstood = signs.every((sign) => currencySign(sign));
  if (!isUnderstood) return { number: text };
  if (!one) return { number };
  if (!one.currencies.some((currency) => other.currencies.includes(currency))) return { number: text };
  // Said twice, as in `€ 12 EUR`, the narrower counts.
  const sign = one.currencies.length <= other.currencies.length ? one : other;
  return { number, sign };
}
