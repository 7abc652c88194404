import { choiceLabel, type Field, type FieldValue, type ObjectKey } from '../../kernel/catalogue';
import { toMajor } from '../../platform/money';

/** What a cell of an exported file holds, in a type of its own. */
export type ExportCell =
  | { type: 'empty' }
  | { type: 'text'; text: string }
  | { type: 'number'; number: number; format?: 'money' | 'percent' }
  | { type: 'date'; day: string }
  | { type: 'dateTime'; instant: string }
  | { type: 'yesNo'; isYes: boolean };

/** Names that stand for linked records and lists. */
export interface ExportNames {
  nameOf: (object: ObjectKey, id: number) => string;
  listName: (id: number) => string;
}

const EMPTY: ExportCell = { type: 'empty' };
const text = (value: string): ExportCell => (value === '' ? EMPTY : { type: 'text', text: value });

/**
 * A field's value as a cell: links by name, choices by label, money in major units.
 * @param currency of a money value.
 */
export function exportCell(
  field: Field,
  value: FieldValue,
  currency: string,
  { nameOf, listName }: ExportNames,
): ExportCell {
  if (value === null) return EMPTY;
  const members = Array.isArray(value) ? (value as readonly (string | number)[]) : [];
  switch (field.type) {
    case 'link':
      return text(nameOf(field.to as ObjectKey, Number(value)));
    case 'choice':
      return text(choiceLabel(field, String(value)));
    case 'choices':
      return text(members.map((key) => choiceLabel(field, String(key))).join(', '));
    case 'tags':
      return text(members.join(', '));
    case 'lists':
      return text(members.map((id) => listName(Number(id))).join(', '));
    case 'money':
      return { type: 'number', number: toMajor(Number(value), currency), format: 'money' };
    case 'number':
      return { type: 'number', number: Number(value) };
    case 'percent':
      return { type: 'number', number: Number(value) / 100, format: 'percent' };
    case 'date':
      return { type: 'date', day: String(value) };
    case 'dateTime':
      return { type: 'dateTime', instant: String(value) };
    case 'yesNo':
      return { type: 'yesNo', isYes: Boolean(value) };
    default:
      return text(String(value));
  }
}

/** What a spreadsheet would run, or take for something else than text. */
const RUNS = /^[=+\-@\t\r]/;
/** A text that was made safe, as it is read back. */
const GUARDED = /^'[=+\-@\t\r']/;

/**
 * A text as a cell of delimited text that no spreadsheet runs: an apostrophe before it makes it text.
 * `unguarded` takes it away again.
 */
export function guarded(value: string): string {
  return RUNS.test(value) || GUARDED.test(value) ? `'${value}` : value;
}

/** The text of a cell as it was before it was made safe. */
export function unguarded(cell: string): string {
  return GUARDED.test(cell) ? cell.slice(1) : cell;
}

/** A cell as delimited text: numbers with a point, dates as ISO 8601, text made safe. */
export function plainCell(cell: ExportCell, clock: (instant: string) => string): string {
  switch (cell.type) {
    case 'empty':
      return '';
    case 'text':
      return guarded(cell.text);
    case 'number':
      // Without its sign forty percent would be taken for 0.4 of one.
      return cell.format === 'percent'
        ? `${Number((cell.number * 100).toPrecision(15))}%`
        : String(Number(cell.number.toPrecision(15)));
    case 'date':
      return cell.day;
    case 'dateTime':
      return clock(cell.instant);
    case 'yesNo':
      return cell.isYes ? 'yes' : 'no';
  }
}
