import { offered, type Field, type FieldValue } from '../../kernel/catalogue';
import { nameSimilarity } from '../matching';
import { toMinor } from '../../platform/money';
import { instantIn } from '../../platform/time';
import { readDay, readNumber, type DateOrder, type DecimalSign } from './conventions';

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

const YES = ['yes', 'y', 'true', '1', 'x', 'ja', 'oui', 'sí', 'si', 'sim'];
const NO = ['no', 'n', 'false', '0', 'nein', 'nej', 'non', 'não', 'nao'];

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
  switch (field.type) {
    case 'choice':
      return readChoice(field, text);
    case 'choices':
      return partsOf(text).map((part) => readChoice(field, part));
    case 'tags':
      return partsOf(text);
    case 'link': {
      if (field.to !== 'person') throw new UnreadableCell('cannot be filled from a file');
      const person = reading.people.find(({ name, email }) => same(name, text) || same(email, text));
      if (!person) throw new UnreadableCell(`nobody here is called “${text}”`, text);
      return person.id;
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
      const [, hours = '12', minutes = '00'] = /[T ](\d{1,2}):(\d\d)/.exec(text) ?? [];
      if (!day || Number(hours) > 23 || Number(minutes) > 59)
        throw new UnreadableCell(`“${text}” is not a date and time`);
      return instantIn(reading.timeZone, day, `${hours.padStart(2, '0')}:${minutes}`);
    }
    case 'time': {
      const [, hours, minutes] = /^(\d{1,2})[:.h](\d\d)/.exec(text) ?? [];
      if (hours === undefined) throw new UnreadableCell(`“${text}” is not a time such as 14:30`);
      return `${hours.padStart(2, '0')}:${minutes}`;
    }
    case 'yesNo': {
      const word = text.toLowerCase();
      if (YES.includes(word)) return true;
      if (NO.includes(word)) return false;
      throw new UnreadableCell(`“${text}” is neither yes nor no`);
    }
    default:
      return text;
  }
}
