/** The kinds of file that can be read. */
export type FileFormat = 'delimited' | 'workbook' | 'cards' | 'jsonLines';

/** Something taken for true of a file: what, how sure from 0 to 1, and why in words. */
export interface Guess<T> {
  value: T;
  sure: number;
  why: string;
}

export interface TableRow {
  /** The row as a spreadsheet counts, the first line of the file being row 1; of cards and objects their number. */
  row: number;
  cells: string[];
}

/** A file as headings and rows of text, whatever it was. */
export interface Table {
  format: FileFormat;
  headings: string[];
  rows: TableRow[];
  /** The row the headings stand in; 0 when the file has none and they are made up. */
  headingRow: Guess<number>;
  /** Between the cells of delimited text. */
  delimiter?: Guess<string>;
  encoding?: Guess<Encoding>;
  /** The sheet of a workbook that was read, and all of them. */
  sheet?: string;
  sheets?: string[];
  /** Numbers and dates come from typed cells: a point for decimals, days as YYYY-MM-DD. */
  isTyped: boolean;
  /** What a person should know about the reading: macros ignored, a sheet left out. */
  notes: string[];
}

export type Encoding = 'utf-8' | 'utf-16le' | 'utf-16be' | 'windows-1252';

/** How a person wants a file read where the guess is wrong. */
export interface ReadingChoice {
  encoding?: Encoding;
  delimiter?: string;
  /** The row of the headings; 0 for none. */
  headingRow?: number;
  sheet?: string;
  /** Rows to read at most, for a first look; all, up to the limit, when left out. */
  most?: number;
}

/** The whole file cannot be read; the message says why and what to do. */
export class UnreadableFile extends Error {}

export const LIMITS = {
  rows: 100_000,
  columns: 200,
  bytes: 50 * 1024 * 1024,
  /** What a packed file may unpack to, each part of it. */
  unpacked: 400 * 1024 * 1024,
  cell: 20_000,
} as const;

/** @throws UnreadableFile when there are too many columns. */
export function checkWidth(columns: number): void {
  if (columns <= LIMITS.columns) return;
  throw new UnreadableFile(
    `The file has ${columns} columns; at most ${LIMITS.columns} can be read. Take out those you do not need.`,
  );
}

export const tooManyRows = () =>
  new UnreadableFile(
    `The file has more than ${LIMITS.rows.toLocaleString('en-GB')} rows. Split it and import the parts one after the other.`,
  );

/** @throws UnreadableFile when a cell is longer than any field. */
export function checkCells(rows: readonly TableRow[]): void {
  for (const { row, cells } of rows) {
    const at = cells.findIndex((cell) => cell.length > LIMITS.cell);
    if (at < 0) continue;
    throw new UnreadableFile(
      `Row ${row}, column ${at + 1} holds ${cells[at].length} characters; a cell takes at most ${LIMITS.cell}. Is a quote missing?`,
    );
  }
}

const MAIL = /^[^\s@]+@[^\s@]+\.[^\s@]+$/;
/** Rows looked through for headings: titles and empty lines may stand above them. */
const ABOVE = 10;

/** A row of headings holds names: no email addresses, no bare numbers, no dates, nothing twice as long as a name. */
function looksLikeHeadings(cells: readonly string[]): boolean {
  const filled = cells.filter((cell) => cell !== '');
  return (
    filled.length > 0 &&
    filled.every(
      (cell) => !MAIL.test(cell) && /\p{L}/u.test(cell) && !/^\d|\d{5}/.test(cell) && cell.length <= 80,
    )
  );
}

/** Which row holds the headings: the first that is as wide as the rows below it and holds names. */
export function guessHeadingRow(rows: readonly TableRow[]): Guess<number> {
  const first = rows.slice(0, ABOVE);
  const widths = rows.slice(0, 50).map(({ cells }) => cells.filter((cell) => cell !== '').length);
  const usual = [...widths].sort((a, b) => a - b)[Math.floor(widths.length / 2)] ?? 0;
  const found = first.find(
    ({ cells }) => cells.filter((cell) => cell !== '').length >= usual * 0.6 && looksLikeHeadings(cells),
  );
  if (!found) return { value: 0, sure: 0.6, why: 'No row near the top holds names only' };
  const isFirst = found === first[0];
  return {
    value: found.row,
    sure: isFirst ? 0.95 : 0.8,
    why: isFirst ? 'The first row holds names only' : `The rows above row ${found.row} are narrower`,
  };
}

/** What a column without a heading is called. */
const letters = (index: number): string =>
  (index >= 26 ? letters(Math.floor(index / 26) - 1) : '') + String.fromCharCode(65 + (index % 26));

/**
 * Takes rows apart into headings and what stands below them. Empty rows are left out; empty columns at the end too.
 * @throws UnreadableFile when nothing stands below the headings.
 */
export function withHeadings(
  rows: readonly TableRow[],
  chosen: number | undefined,
): Pick<Table, 'headings' | 'rows' | 'headingRow'> {
  const headingRow =
    chosen === undefined ? guessHeadingRow(rows) : { value: chosen, sure: 1, why: 'Chosen by hand' };
  const below = rows.filter(({ row }) => row > headingRow.value);
  const named = rows.find(({ row }) => row === headingRow.value)?.cells ?? [];
  const last = (cells: readonly string[]) => cells.findLastIndex((cell) => cell !== '') + 1;
  let width = last(named);
  if (headingRow.value === 0) for (const { cells } of below) width = Math.max(width, last(cells));
  checkWidth(width);
  if (below.length === 0) {
    throw new UnreadableFile(
      named.length > 0
        ? 'The file has column names but no rows below them.'
        : 'The file is empty. Choose one with a heading row and at least one row.',
    );
  }
  const headings = Array.from({ length: width }, (_, index) => named[index] ?? '');
  return {
    headings: headings.map((heading, index) =>
      headingRow.value === 0 ? `Column ${letters(index)}` : heading,
    ),
    // Cells beyond the headings stay when they hold something: the row is refused later, not quietly cut.
    rows: below.map(({ row, cells }) => ({ row, cells: cells.slice(0, Math.max(width, last(cells))) })),
    headingRow,
  };
}
