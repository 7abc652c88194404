import { type Field, type FieldValue } from '../catalogue';
import { toMinor } from '../money';
import { isDay } from '../time';

/** What is needed to read a cell: names that can stand for people, and the currency of the row's money. */
export interface CellReading {
  people: readonly { id: number; name: string; email: string }[];
  currency: string;
}

/** A cell that cannot be read as its field; the sentence goes behind the field's label. */
export class UnreadableCell extends Error {}

/** `12,500.00`, `12.500,00`, `12 500` and `£12500` as a number; undefined when it is none. */
export function readNumber(text: string): number | undefined {
  const bare = text.replace(/[\s\u00a0\u202f'’]/g, '').replace(/^[A-Z]{3}|[A-Z]{3}$|[£€$]|kr\.?$/gi, '');
  const sign = bare.startsWith('-') ? -1 : 1;
  const digits = bare.replace(/^[+-]/, '');
  if (!/^\d[\d.,]*$/.test(digits)) return undefined;
  const last = Math.max(digits.lastIndexOf('.'), digits.lastIndexOf(','));
  const behind = last < 0 ? 0 : digits.length - last - 1;
  const kinds = new Set(digits.replace(/\d/g, ''));
  const lone = kinds.size === 1 && digits.replace(/\d/g, '').length === 1;
  // Three digits behind a lone separator are thousands (12,500); otherwise the last of two kinds is the point.
  const hasPoint = last >= 0 && (kinds.size === 2 || (lone && behind !== 3));
  const whole = (hasPoint ? digits.slice(0, last) : digits).replace(/[.,]/g, '');
  return sign * Number(hasPoint ? `${whole}.${digits.slice(last + 1)}` : whole);
}

/** An ISO date, or day.month.year and day/month/year, as `YYYY-MM-DD`; undefined when it is none. */
export function readDay(text: string): string | undefined {
  if (isDay(text)) return text;
  const match = /^(\d{1,2})[./-](\d{1,2})[./-](\d{4})$/.exec(text);
  if (!match) return undefined;
  const [, day, month, year] = match;
  const read = `${year}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`;
  return isDay(read) ? read : undefined;
}

const same = (a: string, b: string) => a.toLowerCase() === b.toLowerCase();

/**
 * A cell as the value its field holds, before the catalogue's own check.
 * @returns null for an empty cell.
 * @throws UnreadableCell when the text means nothing in that field.
 */
export function readCell(field: Field, text: string, reading: CellReading): FieldValue {
  if (text === '') return null;
  switch (field.type) {
    case 'choice': {
      const choice = field.choices?.find(({ key, label }) => same(label, text) || same(key, text));
      if (!choice)
        throw new UnreadableCell(`“${text}” is not one of ${field.choices?.map((c) => c.label).join(', ')}`);
      return choice.key;
    }
    case 'link': {
      if (field.to !== 'person') throw new UnreadableCell('cannot be filled from a file yet');
      const person = reading.people.find(({ name, email }) => same(name, text) || same(email, text));
      if (!person) throw new UnreadableCell(`nobody here is called “${text}”`);
      return person.id;
    }
    case 'number':
    case 'percent':
    case 'money': {
      const number = readNumber(text);
      if (number === undefined) throw new UnreadableCell(`“${text}” is not a number`);
      return field.type === 'money' ? toMinor(number, reading.currency) : number;
    }
    case 'date': {
      const day = readDay(text);
      if (!day) throw new UnreadableCell(`“${text}” is not a date (use 2026-03-31 or 31.03.2026)`);
      return day;
    }
    case 'tags':
      return text
        .split(',')
        .map((part) => part.trim())
        .filter(Boolean);
    case 'choices':
      return text
        .split(',')
        .map((part) => readCell({ ...field, type: 'choice' }, part.trim(), reading) as string);
    case 'yesNo':
      return ['yes', 'true', '1', 'y', 'ja'].includes(text.toLowerCase());
    default:
      return text;
  }
}
