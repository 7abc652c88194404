/** The kinds of file that can be read. */
export type FileFormat = 'delimited' | 'workbook' | 'cards' | 'jsonLines';

/** Something taken for true of a file: what, how sure from 0 to 1, and why in words. */
export interface Guess<T> {
  value: T;
  sure: number;
  why: string;
}

/** A sheet of a workbook, with how many rows it has where that was counted. */
export interface Sheet {
  name: string;
  rows?: number | undefined;
  isHidden?: boolean;
}

/** Where the cells of a column are split: into the parts of an address, or at a sign. */
export type SplitAt = 'address' | 'comma' | 'semicolon' | 'slash' | 'line' | 'space';

/** A column that is split, as it stands in the file. */
export interface ColumnSplit {
  column: number;
  at: SplitAt;
}

/** A column that was split, and where its parts stand. */
export interface AppliedSplit extends ColumnSplit {
  heading: string;
  /** The first of its parts among the columns of the table, and how many there are. */
  from: number;
  parts: number;
}

export interface TableRow {
  /** The row as a spreadsheet counts, the first line of the file being row 1; of cards and objects their number. */
  row: number;
  cells: string[];
  /** The line of the file it begins in, where cells with line breaks make that another number. */
  line?: number;
  /** Why it cannot be trusted as a whole, such as quotes that do not pair up. */
  fault?: string;
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
  encoding?: Guess<Encoding> & { others?: OtherEncoding[] };
  /** The sheet of a workbook that was read, and all of them. */
  sheet?: string;
  sheets?: Sheet[];
  /** The columns that were split into several. */
  splits?: AppliedSplit[];
  /** Numbers and dates come from typed cells: a point for decimals, days as YYYY-MM-DD. */
  isTyped: boolean;
  /** What a person should know about the reading: macros ignored, a sheet left out. */
  notes: string[];
}

/** Encodings that text files come in, by the names of the Encoding Standard. */
export const ENCODINGS = [
  ['utf-8', 'UTF-8'],
  ['utf-16le', 'UTF-16'],
  ['utf-16be', 'UTF-16, big-endian'],
  ['windows-1252', 'Western European (Windows-1252)'],
  ['macintosh', 'Western European (Mac Roman)'],
  ['windows-1250', 'Central European (Windows-1250)'],
  ['iso-8859-2', 'Central European (ISO-8859-2)'],
  ['windows-1251', 'Cyrillic (Windows-1251)'],
  ['koi8-r', 'Cyrillic (KOI8-R)'],
  ['iso-8859-5', 'Cyrillic (ISO-8859-5)'],
  ['windows-1253', 'Greek (Windows-1253)'],
  ['windows-1254', 'Turkish (Windows-1254)'],
  ['shift_jis', 'Japanese (Shift-JIS)'],
  ['euc-jp', 'Japanese (EUC-JP)'],
  ['gb18030', 'Chinese (GB 18030)'],
  ['big5', 'Chinese (Big5)'],
  ['euc-kr', 'Korean (EUC-KR)'],
] as const;

export type Encoding = (typeof ENCODINGS)[number][0];

/** Another encoding a file may be in, and what would be read otherwise then. */
export interface OtherEncoding {
  value: Encoding;
  /** Words of the file: as they are read now, and as they would be. */
  glimpse: [now: string, then: string][];
}

/** How a person wants a file read where the guess is wrong. */
export interface ReadingChoice {
  encoding?: Encoding;
  delimiter?: string;
  /** The row of the headings; 0 for none. */
  headingRow?: number;
  sheet?: string;
  /** The columns that are split, as they stand in the file; guessed when left out. */
  split?: readonly ColumnSplit[];
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
): Pick<Table, 'headings' | 'rows' | 'headingRow' | 'notes'> {
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
  const { rows: table, notes } = withoutTotals(below, width);
  return {
    headings: headings.map((heading, index) =>
      headingRow.value === 0 ? `Column ${letters(index)}` : heading,
    ),
    // Cells beyond the headings stay when they hold something: the row is refused later, not quietly cut.
    rows: table.map((each) => {
      const filled = each.cells.slice(0, Math.max(width, last(each.cells)));
      while (filled.length < width) filled.push('');
      return { ...each, cells: filled };
    }),
    headingRow,
    notes: [...aboveInWords(rows, headingRow.value), ...notes],
  };
}

const rowsInWords = (rows: readonly TableRow[]) => {
  const numbers = rows.slice(0, 4).map(({ row }) => row);
  const more = rows.length > numbers.length ? ` and ${rows.length - numbers.length} more` : '';
  return `${rows.length === 1 ? 'Row' : 'Rows'} ${numbers.join(', ')}${more}`;
};

/** What stands above the headings is no row of the table. */
function aboveInWords(rows: readonly TableRow[], headingRow: number): string[] {
  const above = rows.filter(({ row }) => row < headingRow);
  if (above.length === 0) return [];
  const said = above[0].cells.filter(Boolean).join(' ').slice(0, 60);
  return [
    `${rowsInWords(above)} above the headings ${above.length === 1 ? 'was' : 'were'} set aside: “${said}”.`,
  ];
}

const TOTAL =
  /^(grand |sub)?(total|totals|sum|gesamt|gesamtsumme|summe|zwischensumme|somme|sous-total|suma|totale|subtotale|totaal|subtotaal|summa|totalt|sum|i alt|razem|łącznie|soma)s?\b[:. ]*/iu;
const REMARK =
  /^(source|quelle|note|notes|hinweis|exported|export|printed|created|generated|stand|as of|©|\*)/iu;

/** Rows at the end of a table looked at for sums and remarks. */
const AT_THE_END = 6;

/** Whether a row under a table is none of it: a sum, or a remark in its first cell alone. */
function isBelowTheTable({ cells }: TableRow, width: number): boolean {
  const filled = cells.filter((cell) => cell !== '');
  const [first = ''] = filled;
  // A sum names itself, and beside it stand figures alone.
  if (TOTAL.test(first) && filled.slice(1).every((cell) => /\d/.test(cell) && !/\p{L}{4,}/u.test(cell)))
    return filled.length < Math.max(width, 2) || first.replace(TOTAL, '') === '';
  const isSum = filled.length > 0 && width > 3 && cells[0] === '' && filled.length <= width / 3;
  if (isSum && filled.every((cell) => /\d/.test(cell) && !/[\p{L}@]{4,}/u.test(cell))) return true;
  // A remark with commas in it fills several cells.
  if (REMARK.test(first) && filled.length < width && /^[^:]{1,30}:|^[©*]/.test(first)) return true;
  return width > 2 && filled.length === 1 && cells[0] !== '' && (REMARK.test(first) || first.length > 60);
}

/** Sets aside what stands under a table and is none of its rows, and sums between them. */
function withoutTotals(
  below: readonly TableRow[],
  width: number,
): { rows: readonly TableRow[]; notes: string[] } {
  const isSum = ({ cells }: TableRow) => {
    const filled = cells.filter((cell) => cell !== '');
    return filled.length > 1 && TOTAL.test(filled[0]) && filled[0].replace(TOTAL, '') === '';
  };
  let end = below.length;
  while (end > 1 && below.length - end < AT_THE_END && isBelowTheTable(below[end - 1], width)) end -= 1;
  const kept = below
    .slice(0, end)
    .filter((each, index) => index === 0 || !isSum(each) || !isBelowTheTable(each, width));
  if (kept.length === below.length) return { rows: below, notes: [] };
  const stays = new Set(kept);
  const aside = below.filter((each) => !stays.has(each));
  const said = aside[0].cells.filter(Boolean).join(' ').slice(0, 60);
  return {
    rows: kept,
    notes: [
      `${rowsInWords(aside)} below the table ${aside.length === 1 ? 'was' : 'were'} set aside as sums or remarks: “${said}”.`,
    ],
  };
}
