import { countryCode } from '../../kernel/validation';
import { headingWords } from './heading-words';
import { plainHeading } from './plain-heading';
import { checkWidth, type ColumnSplit, type SplitAt, type Table, type TableRow } from './table';
import { ZAWN_ID } from './targets';

const SIGNS: Record<Exclude<SplitAt, 'address'>, RegExp> = {
  comma: /\s*,\s*/,
  semicolon: /\s*;\s*/,
  slash: /\s*\/\s*/,
  line: /\s*\n\s*/,
  space: /\s+/,
};

export const splitsAt = ['address', ...Object.keys(SIGNS)] as readonly SplitAt[];

/** Parts a cell is split into at most; what is left stands in the last. */
const MOST_PARTS = 6;
const ADDRESS_PARTS = ['Street', 'Postcode', 'Town', 'Country'];

/** Postcodes before the town: 20457, 411 04, 00-950, 1100-148, 1011 AB, with the country before them or without. */
const TOWN_BEHIND =
  /^((?:[A-Z]{1,3}-)?(?:\d{3} \d{2}|\d{2}-\d{3}|\d{4}-\d{3}|\d{4} ?[A-Z]{2}|\d{4,6})) +(\p{L}.*)$/u;
/** Postcodes behind the town: HU1 2AB; M5V 2T6, 62704 and 2000 behind the state, which stays with the town. */
const TOWN_BEFORE =
  /^(.*?)[ ,]*\b([A-Z]{1,2}\d[A-Z\d]? ?\d[A-Z]{2}|(?<=\b[A-Z]{2} )[A-Z]\d[A-Z] ?\d[A-Z]\d|(?<=\b[A-Z]{2,3} )\d{4,5}(?:-\d{4})?)$/u;
/** Without a comma before the postcode only five digits are told from the number of a house. */
const IN_ONE = /^(.*\p{L}.* \d+ ?\w?) +(\d{5}) +(\p{L}.*)$/u;

/** Street, postcode, town and country of an address in one cell; undefined where it cannot be told which is which. */
export function addressParts(text: string): string[] | undefined {
  const parts = text.split(/\s*[,;\n]\s*/).filter((part) => part !== '');
  const last = parts.at(-1) ?? '';
  const country = parts.length > 1 && /^\D{3,}$/.test(last) && countryCode(last) ? (parts.pop() ?? '') : '';
  const end = parts.pop() ?? '';
  const whole = parts.length === 0 ? IN_ONE.exec(end) : null;
  if (whole) return [whole[1], whole[2], whole[3], country];
  const behind = TOWN_BEHIND.exec(end);
  if (behind && parts.length > 0) return [parts.join(', '), behind[1], behind[2], country];
  const before = TOWN_BEFORE.exec(end);
  if (!before) return undefined;
  const [, town, postcode] = before;
  // The town stands before its state, or before a postcode that is all there is behind the comma.
  const isState = /^[A-Z]{2,3}$/.test(town);
  const place = isState && parts.length > 1 ? `${parts.pop() ?? ''}, ${town}` : town || parts.pop();
  return place && parts.length > 0 ? [parts.join(', '), postcode, place, country] : undefined;
}

/** The parts of a cell; undefined where it stays whole. */
function partsOfCell(cell: string, at: SplitAt): string[] | undefined {
  if (at === 'address') return addressParts(cell);
  const parts = cell.split(SIGNS[at]).filter((part) => part !== '');
  if (parts.length <= MOST_PARTS) return parts;
  const rest = parts.slice(MOST_PARTS - 1).join(at === 'line' ? '\n' : at === 'space' ? ' ' : ', ');
  return [...parts.slice(0, MOST_PARTS - 1), rest];
}

/** Share of a column’s values that must be whole addresses for it to be split. */
const MOST_OF = 0.7;
const LOOKED_AT = 200;

/** The columns of a file that hold whole addresses, with street, postcode and town in one cell. */
export function guessSplits({
  format,
  headings,
  rows,
}: Pick<Table, 'format' | 'headings' | 'rows'>): ColumnSplit[] {
  const plain = headings.map(plainHeading);
  const wordsOf = (key: string) => new Set(headingWords('account', key).map(plainHeading));
  const [streets, ...others] = ['street', 'postcode', 'city'].map(wordsOf);
  const isSplitAlready = plain.some((heading) => others.some((words) => words.has(heading)));
  if (format === 'cards' || isSplitAlready || headings.includes(ZAWN_ID)) return [];
  const column = plain.findIndex((heading, index) => {
    if (!streets.has(heading)) return false;
    const filled = rows.slice(0, LOOKED_AT).flatMap(({ cells }) => cells[index] || []);
    const split = filled.filter((cell) => addressParts(cell) !== undefined).length;
    return filled.length > 0 && split / filled.length >= MOST_OF;
  });
  return column < 0 ? [] : [{ column, at: 'address' }];
}

/**
 * The table with some of its columns split into several that stand in their place. What cannot be split stays whole in
 * the first of them, and the notes say so.
 * @param chosen which columns; guessed when left out.
 * @throws UnreadableFile when there would be too many columns.
 */
export function splitColumns(table: Table, chosen: readonly ColumnSplit[] = guessSplits(table)): Table {
  const meant = [...new Map(chosen.map((each) => [each.column, each])).values()]
    .filter(({ column }) => column < table.headings.length)
    .sort((a, b) => b.column - a.column);
  return meant.reduce(splitColumn, table);
}

/** Splits one column; those behind it were split before. */
function splitColumn(table: Table, { column, at }: ColumnSplit): Table {
  const heading = table.headings[column];
  const whole: TableRow[] = [];
  let count = at === 'address' ? ADDRESS_PARTS.length - 1 : 1;
  const split = table.rows.map((row) => {
    const cell = row.cells[column] ?? '';
    const parts = cell === '' ? [] : partsOfCell(cell, at);
    if (!parts) whole.push(row);
    const filled = (parts ?? [cell]).findLastIndex((part) => part !== '') + 1;
    count = Math.max(count, filled);
    return parts ?? [cell];
  });
  checkWidth(table.headings.length + count - 1);
  const names =
    at === 'address'
      ? ADDRESS_PARTS.slice(0, count)
      : Array.from({ length: count }, (_, part) => `${heading} ${part + 1}`);
  const inPlace = (cells: readonly string[], parts: readonly string[]) => [
    ...cells.slice(0, column),
    ...Array.from({ length: count }, (_, part) => parts[part] ?? ''),
    ...cells.slice(column + 1),
  ];
  const before = (table.splits ?? []).map((each) => ({ ...each, from: each.from + count - 1 }));
  return {
    ...table,
    headings: inPlace(table.headings, names),
    rows: table.rows.map((row, index) => ({ ...row, cells: inPlace(row.cells, split[index]) })),
    splits: [{ column, at, heading, from: column, parts: count }, ...before],
    notes: [...table.notes, ...wholeInWords(whole, heading)],
  };
}

/** Which addresses could not be split. */
function wholeInWords(rows: readonly TableRow[], heading: string): string[] {
  if (rows.length === 0) return [];
  const some = rows.slice(0, 4).map(({ row }) => row);
  const more = rows.length > some.length ? ` and ${rows.length - some.length} more` : '';
  return [
    `${rows.length === 1 ? 'The address of row' : 'The addresses of rows'} ${some.join(', ')}${more} under “${heading}” could not be split and ${rows.length === 1 ? 'stands' : 'stand'} whole under Street.`,
  ];
}
