import { parsePhoneNumberFromString, type CountryCode } from 'libphonenumber-js';

export { countryCode } from './country';

/**
 * Signs without any width, which come along when text is copied: soft hyphens, marks of direction and of order. Those
 * that join letters, as in Persian and in emoji, are letters of their word and stay.
 */
const UNSEEN = /[\u00ad\u200b\u200e\u200f\u202a-\u202e\u2060-\u2064\u2066-\u2069\ufeff]/gu;
/** The same, and those that join: no address holds either. */
const UNSEEN_IN_ADDRESSES = /[\u00ad\u200b-\u200f\u202a-\u202e\u2060-\u2064\u2066-\u2069\ufeff]/gu;

/** An address without signs that nobody sees; most are plain letters. */
const visible = (text: string) => (/^[ -~]*$/.test(text) ? text : text.replace(UNSEEN_IN_ADDRESSES, ''));

/** What a one-line value does not hold: white space but for single spaces between words, and signs that nobody sees. */
const UNTIDY = /^ | $| {2}|[^\S ]|\p{Cc}|\p{Cf}/u;

/** Trims and collapses white space; null when nothing is left. */
export function normaliseText(text: string): string | null {
  // Most texts are tidy, and looking is several times faster than replacing.
  if (!UNTIDY.test(text)) return text || null;
  // Line breaks become spaces too: this is for one-line values. So do signs that nobody sees, NUL among them.
  return (
    text
      .replace(UNSEEN, '')
      .replace(/[\s\p{Cc}]+/gu, ' ')
      .trim() || null
  );
}

/** Trims the ends, keeps the lines within and drops signs that nobody sees; null when nothing is left. */
export function normaliseLongText(text: string): string | null {
  return (
    text
      .replace(/\r\n?/g, '\n')
      .replace(UNSEEN, '')
      .replace(/[^\P{Cc}\n\t]/gu, '')
      .trim() || null
  );
}

const MAIL = /^[^\s@<>(),;:"[\]]+@[^\s@<>(),;:"[\]]+\.[^\s@<>(),;:"[\].]{2,}$/u;

/** An email address in lower case; undefined when it is none. */
export function normaliseMail(text: string): string | undefined {
  const mail = visible(text)
    .trim()
    .toLowerCase()
    // As programs for mail write it: Ada Holm <ada@x.example>.
    .replace(/^[^<>@]*<([^<>\s]+)>$/, '$1')
    .replace(/^mailto:/, '');
  return MAIL.test(mail) && !mail.includes('..') ? mail : undefined;
}

/** What stands before an extension, where it is not `ext.` or `x`. */
const EXTENSION =
  /[\s,;-]*\b(?:durchwahl|dw|apparat|app|poste|interno|anknytning|anexo|toestel|ramal|wew|lokal|extension)\b[.:]?\s*(\d{1,7})\s*$/iu;

/** A number whose extension is said as the parser of numbers knows it; most have no letters at all. */
const withExtension = (text: string) => (/\p{L}/u.test(text) ? text.replace(EXTENSION, ' ext. $1') : text);

/**
 * A phone number in E.164: `01632 960 001` in GB → `+441632960001`.
 * @param country ISO 3166 code used when the number has no country prefix.
 * An extension is kept as a link to it says it (RFC 3966): `+441632960001;ext=12`.
 * @returns undefined when it cannot be a phone number.
 */
export function normalisePhone(text: string, country: string): string | undefined {
  const number = parsePhoneNumberFromString(withExtension(visible(text)), country as CountryCode);
  if (!number?.isPossible()) return undefined;
  return number.ext ? `${number.number};ext=${number.ext}` : number.number;
}

/** A web address as a bare domain: `https://www.seagrave.example/home` → `seagrave.example`; undefined when it is none. */
export function normaliseWeb(text: string): string | undefined {
  const bare = visible(text)
    .trim()
    .toLowerCase()
    .replace(/^[a-z]+:\/\//, '')
    .replace(/^www\./, '')
    .replace(/[/?#].*$/, '')
    .replace(/:\d+$/, '')
    .replace(/\.$/, '');
  return /^[\p{L}\d-]+(\.[\p{L}\d-]+)+$/u.test(bare) ? bare : undefined;
}
