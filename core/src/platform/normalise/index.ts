import { parsePhoneNumberFromString, type CountryCode } from 'libphonenumber-js';

export { countryCode } from './country';

/** What a one-line value does not hold: white space but for single spaces between words, and signs that nobody sees. */
const UNTIDY = /^ | $| {2}|[^\S ]|\p{Cc}/u;

/** Trims and collapses white space; null when nothing is left. */
export function normaliseText(text: string): string | null {
  // Most texts are tidy, and looking is several times faster than replacing.
  if (!UNTIDY.test(text)) return text || null;
  // Line breaks become spaces too: this is for one-line values. So do signs that nobody sees, NUL among them.
  return text.replace(/[\s\p{Cc}]+/gu, ' ').trim() || null;
}

/** Trims the ends, keeps the lines within and drops signs that nobody sees; null when nothing is left. */
export function normaliseLongText(text: string): string | null {
  return (
    text
      .replace(/\r\n?/g, '\n')
      .replace(/[^\P{Cc}\n\t]/gu, '')
      .trim() || null
  );
}

const MAIL = /^[^\s@<>(),;:"[\]]+@[^\s@<>(),;:"[\]]+\.[^\s@<>(),;:"[\].]{2,}$/u;

/** An email address in lower case; undefined when it is none. */
export function normaliseMail(text: string): string | undefined {
  const mail = text
    .trim()
    .toLowerCase()
    .replace(/^mailto:/, '');
  return MAIL.test(mail) && !mail.includes('..') ? mail : undefined;
}

/**
 * A phone number in E.164: `01632 960 001` in GB → `+441632960001`.
 * @param country ISO 3166 code used when the number has no country prefix.
 * @returns undefined when it cannot be a phone number.
 */
export function normalisePhone(text: string, country: string): string | undefined {
  const number = parsePhoneNumberFromString(text, country as CountryCode);
  return number?.isPossible() ? number.number : undefined;
}

/** A web address as a bare domain: `https://www.seagrave.example/home` → `seagrave.example`; undefined when it is none. */
export function normaliseWeb(text: string): string | undefined {
  const bare = text
    .trim()
    .toLowerCase()
    .replace(/^[a-z]+:\/\//, '')
    .replace(/^www\./, '')
    .replace(/[/?#].*$/, '')
    .replace(/:\d+$/, '')
    .replace(/\.$/, '');
  return /^[\p{L}\d-]+(\.[\p{L}\d-]+)+$/u.test(bare) ? bare : undefined;
}
