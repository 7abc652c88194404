import { offered, type Field, type FieldValue } from '../../kernel/catalogue';
import { nameSimilarity } from '../matching';
import { currencySign, toMinor, withoutSign } from '../../platform/money';
import { instantIn } from '../../platform/time';
import { isSpreadsheetError, yesOrNo } from './cell-words';
import { readDay, readNumber, readTime, type DateOrder, type DecimalSign } from './conventions';

/** What is needed to read a cell: how the file writes numbers and dates, and the names that can stand for people. */
export interface CellReading {
  people: readonly { id: number; name: string; email: string }[];
  /** Of the row's money. */
  currency: string;
  dates: DateOrder;
  /** Numbers are read by either sign when it is left out. */
  decimal?: DecimalSign;
  /** In which times without an offset are meant. */
  timeZone: string;
}

/** A cell that cannot be read as its field; the sentence goes behind the column’s heading. */
export class UnreadableCell extends Error {
  constructor(
    message: string,
    /** What stands for nothing here but could be pointed at a choice or a person once for the whole file. */
    readonly unknown?: string,
  ) {
    super(message);
  }
}

const same = (a: string, b: string) => a.toLowerCase() === b.toLowerCase();

/** Choices whose names differ by no more than a letter or an ending are taken for the same. */
const ALIKE_CHOICE = 0.86;

/** A point in time that says its distance from UTC (ISO 8601). */
const EXACT_INSTANT = /^\d{4}-\d\d-\d\dT\d\d:\d\d(:\d\d(\.\d+)?)?(Z|[+-]\d\d:?\d\d)$/i;

/** What a spreadsheet makes of a number or a range that looks like a date to it. */
const MADE_A_DATE = /^(\d{1,2}[-. ](jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)|\d{4}-\d\d-\d\d)/i;

function readChoice(field: Field, text: string): string {
  const choices = offered(field.choices);
  const exact = choices.find(({ key, label }) => same(label, text) || same(key, text));
  const found = exact ?? choices.find(({ label }) => nameSimilarity(label, text) >= ALIKE_CHOICE);
  if (found) return found.key;
  throw new UnreadableCell(`“${text}” is not one of ${choices.map(({ label }) => label).join(', ')}`, text);
}

function readAmount(field: Field, text: string, { decimal, currency }: CellReading): number {
  const number = readNumber(text, decimal);
  if (number !== undefined) return field.type === 'money' ? toMinor(number, currency) : number;
  if (MADE_A_DATE.test(text)) {
    throw new UnreadableCell(
      `“${text}” is a date where a number belongs; a spreadsheet may have turned one into it`,
    );
  }
  const other = decimal === '.' ? ',' : '.';
  if (decimal && readNumber(text, other) !== undefined) {
    throw new UnreadableCell(
      `“${text}” has its decimals behind a ${other === ',' ? 'comma' : 'point'}, unlike the rest of the file`,
    );
  }
  throw new UnreadableCell(`“${text}” is not a number`);
}

/**
 * The currency that an amount says beside its number.
 * @param named what a column of the row says, if it says one.
 * @param used the organisation’s own currencies, among which a sign of several is looked for.
 * @returns undefined when the cell says none.
 * @throws UnreadableCell when the sign may mean several, or another than the row’s column says.
 */
export function currencyIn(
  text: string,
  named: string | undefined,
  used: readonly string[],
): string | undefined {
  const { sign } = withoutSign(text);
  if (!sign) return undefined;
  const { currencies } = sign;
  if (named !== undefined) {
    if (currencies.includes(named)) return named;
    throw new UnreadableCell(`“${text}” is not in ${named}, which the row names as its currency`);
  }
  if (currencies.length === 1) return currencies[0];
  const meant = currencies.filter((currency) => used.includes(currency));
  if (meant.length === 1) return meant[0];
  throw new UnreadableCell(
    `“${text}” may be in ${currencies.slice(0, 3).join(', ')}; write the code beside the amount, or add a column with the currency`,
  );
}

/** The members that a cell of several values holds. */
export const partsOf = (text: string): string[] =>
  text
    .split(/[,;|]/)
    .map((part) => part.trim())
    .filter(Boolean);

/**
 * A cell as the value its field holds, before the catalogue’s own check.
 * @returns null for an empty cell.
 * @throws UnreadableCell when the text means nothing in that field.
 */
export function readCell(field: Field, text: string, reading: CellReading): FieldValue {
  if (text === '') return null;
  if (isSpreadsheetError(text))
    throw new UnreadableCell(`“${text}” is what a spreadsheet shows where a formula failed`);
  switch (field.type) {
    case 'choice':
      return readChoice(field, text);
    case 'choices':
      return partsOf(text).map((part) => readChoice(field, part));
    case 'tags':
      return partsOf(text);
    case 'link': {
      if (field.to !== 'person') throw new UnreadableCell('cannot be filled from a file');
      const people = reading.people.filter(({ name, email }) => same(name, text) || same(email, text));
      if (people.length > 1)
        throw new UnreadableCell(`${people.length} people here are called “${text}”; say which`, text);
      if (people.length === 0) throw new UnreadableCell(`nobody here is called “${text}”`, text);
      return people[0].id;
    }
    case 'number':
    case 'percent':
    case 'money':
      return readAmount(field, field.type === 'percent' ? text.replace(/\s*%$/, '') : text, reading);
    case 'date': {
      const day = readDay(text, reading.dates);
      if (!day) throw new UnreadableCell(`“${text}” is not a date in this file’s order`);
      return day;
    }
    case 'dateTime': {
      if (EXACT_INSTANT.test(text) && !Number.isNaN(Date.parse(text))) return new Date(text).toISOString();
      const day = readDay(text, reading.dates);
      // Without a time, the middle of the day is least wrong.
      const time = readTime(text);
      if (!day || time === null) throw new UnreadableCell(`“${text}” is not a date and time`);
      return instantIn(reading.timeZone, day, time ?? '12:00');
    }
    case 'time': {
      const time = readTime(text);
      if (!time) throw new UnreadableCell(`“${text}” is not a time such as 14:30`);
      return time;
    }
    case 'yesNo': {
      const answer = yesOrNo(text);
      if (answer === undefined) throw new UnreadableCell(`“${text}” is neither yes nor no`);
      return answer;
    }
    case 'currency': {
      const [said, ...others] = currencySign(text)?.currencies ?? [];
      return said !== undefined && others.length === 0 ? said : text;
    }
    default:
      return text;
  }
}
