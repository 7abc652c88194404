import Papa from 'papaparse';
import { unguarded } from '../exports';
import { decodeText, guessEncoding } from './decode-text';
import {
  checkCells,
  checkWidth,
  LIMITS,
  tooManyRows,
  UnreadableFile,
  withHeadings,
  type Guess,
  type ReadingChoice,
  type Table,
  type TableRow,
} from './table';

export const DELIMITERS = [
  [',', 'comma'],
  [';', 'semicolon'],
  ['\t', 'tab'],
  ['|', 'pipe'],
] as const;

/** Rows that a delimiter is tried on. */
const TRIED = 60;
/** What stands for bytes that are no letter of an encoding. */
const UNREADABLE = '\ufffd';
/** Line breaks in a cell from which one looks whether a quote is missing. */
const MANY_LINES = 20;

/** What a person should know about the rows of a file. */
function notesOn(rows: readonly TableRow[]): string[] {
  const notes: string[] = [];
  const faulty = rows.filter(({ fault }) => fault !== undefined);
  if (faulty.length > 0) {
    const lines = faulty.slice(0, 5).map(({ line, row }) => line ?? row);
    notes.push(
      `${faulty.length === 1 ? 'Line' : 'Lines'} ${lines.join(', ')}${faulty.length > lines.length ? ` and ${faulty.length - lines.length} more` : ''} cannot be read and will be refused.`,
    );
  }
  const long = rows.find(({ cells }) => cells.some((cell) => cell.split('\n').length > MANY_LINES));
  if (long)
    notes.push(
      `A cell in line ${long.line ?? long.row} holds more than ${MANY_LINES} lines. Is a quote missing?`,
    );
  return notes;
}

/** Share of control characters above which a file is taken for something other than text. */
const BINARY_SHARE = 0.01;

function looksBinary(text: string): boolean {
  const sample = text.slice(0, 4096);
  let odd = 0;
  for (const letter of sample) {
    const code = letter.codePointAt(0) ?? 0;
    if (code === 0) return true;
    if (code === 0xfffd || (code < 32 && code !== 9 && code !== 10 && code !== 13)) odd += 1;
  }
  return odd > sample.length * BINARY_SHARE;
}

const cut = (text: string, delimiter: string, preview: number) =>
  Papa.parse<string[]>(text, { delimiter, preview, skipEmptyLines: false }).data;

/** Which character cuts most rows into the same number of cells. */
export function guessDelimiter(text: string): Guess<string> {
  const sample = text.slice(0, 200_000);
  const tried = DELIMITERS.map(([delimiter, name]) => {
    const widths = cut(sample, delimiter, TRIED)
      .filter((cells) => cells.some((cell) => cell.trim() !== ''))
      .map((cells) => cells.length);
    const counts = new Map<number, number>();
    for (const width of widths) counts.set(width, (counts.get(width) ?? 0) + 1);
    const [width, rows] = [...counts].sort((a, b) => b[1] - a[1] || b[0] - a[0])[0] ?? [1, 0];
    return { delimiter, name, width, share: widths.length === 0 ? 0 : rows / widths.length };
  });
  const best = tried
    .filter(({ width }) => width > 1)
    .sort((a, b) => b.share - a.share || b.width - a.width)[0] as (typeof tried)[number] | undefined;
  if (!best) return { value: ',', sure: 0.5, why: 'There is only one column' };
  const percent = Math.round(best.share * 100);
  return {
    value: best.delimiter,
    sure: Math.min(0.99, best.share),
    why: `The ${best.name} cuts ${percent} % of the rows into ${best.width} cells`,
  };
}

/** Where the lines of a text begin that are read as one row, and what is wrong with its quotes if anything is. */
interface Piece {
  cells: string[];
  /** The text it was read from. */
  raw: string;
  isBroken: boolean;
}

/** Cuts text into rows as its quotes say, and hands them on until it is told that there are enough. */
function cutInto(text: string, delimiter: string, take: (piece: Piece) => 'more' | 'enough'): void {
  let from = 0;
  Papa.parse<string[]>(text, {
    delimiter,
    skipEmptyLines: false,
    step: ({ data, errors, meta }, parser) => {
      const isBroken = errors.some(({ type }) => type === 'Quotes');
      if (take({ cells: data, raw: text.slice(from, meta.cursor), isBroken }) === 'enough') parser.abort();
      from = meta.cursor;
    },
  });
}

const LINE = /\r\n|\n|\r/;
/** Trimmed, and without the apostrophe that keeps a spreadsheet from running a text. */
const tidy = (cells: readonly string[]) =>
  cells.map((cell) => {
    const bare = cell.trim();
    return bare.startsWith("'") ? unguarded(bare).trim() : bare;
  });
const isFilled = (cells: readonly string[]) => cells.some((cell) => cell !== '');

/** Share of the lines within a cell that are as wide as a row, from which they are taken for rows. */
const SWALLOWED = 0.8;

/**
 * Whether a quote that stands where none belongs has made one cell of what are rows: all its line breaks stand in one
 * cell, the first and the last line are rows but for the quote, and so are the lines between them.
 */
function swallowsRows(
  cells: readonly string[],
  lines: readonly string[],
  delimiter: string,
  width: number,
): boolean {
  const isOneCell = cells.some((cell) => cell.split(LINE).length === lines.length);
  if (width < 2 || lines.length < 3 || !isOneCell) return false;
  const ends = [lines[0], lines[lines.length - 1]];
  if (ends.some((line) => line.split(delimiter).length !== width)) return false;
  const within = lines.slice(1, -1).filter((line) => line.trim() !== '');
  // Delimiters alone are no row.
  const asRows = within.filter((line) => {
    const [found = []] = cut(line, delimiter, 1);
    return found.length === width && found.filter((cell) => cell.trim() !== '').length > 1;
  });
  return within.length > 0 && asRows.length >= within.length * SWALLOWED;
}

/** Of how many cells most rows are that stand on one line and whose quotes are in order. */
function usualWidth(text: string, delimiter: string): number {
  const counts = new Map<number, number>();
  let seen = 0;
  cutInto(text.slice(0, 200_000), delimiter, ({ cells, raw, isBroken }) => {
    const isOneLine = !isBroken && raw.trim().split(LINE).length === 1;
    if (isOneLine && cells.length > 1) counts.set(cells.length, (counts.get(cells.length) ?? 0) + 1);
    seen += 1;
    return seen < 5 * TRIED ? 'more' : 'enough';
  });
  const most = [...counts].sort((one, other) => other[1] - one[1] || other[0] - one[0]).at(0);
  return most?.[0] ?? 1;
}

/** The rows of delimited text, empty ones left out, each with its place in the file and what speaks against it. */
function rowsOf(text: string, delimiter: string, most: number): TableRow[] {
  const rows: TableRow[] = [];
  const width = usualWidth(text, delimiter);
  let [row, line] = [0, 1];
  const add = (cells: string[], at: Partial<TableRow>) => {
    row += 1;
    if (isFilled(cells)) rows.push({ row, cells, ...(line === row ? {} : { line }), ...at });
  };
  cutInto(text, delimiter, ({ cells, raw, isBroken }) => {
    // Most rows stand on one line.
    if (!isBroken && !cells.some((cell) => cell.includes('\n') || cell.includes('\r'))) {
      add(tidy(cells), {});
      line += 1;
      return rows.length > most ? 'enough' : 'more';
    }
    const lines = raw.replace(/(\r\n|\n|\r)$/, '').split(LINE);
    if (isBroken || swallowsRows(cells, lines, delimiter, width)) {
      // Each line on its own: the one whose quotes do not pair up is named, those after it are rows as ever, unless
      // they are none: then they belong to a cell that the odd quote has opened.
      let isOpen = false;
      for (const each of lines) {
        const alone = Papa.parse<string[]>(each, { delimiter });
        const isOdd = alone.errors.some(({ type }) => type === 'Quotes') || !hasPairs(each);
        const asCells = tidy(isOdd ? each.split(delimiter) : (alone.data[0] ?? []));
        if (isOdd) isOpen = !isOpen;
        const isPart = isOpen && asCells.length !== width;
        add(asCells, isOdd || isPart ? { fault: oddQuotes(line) } : {});
        line += 1;
      }
    } else {
      add(tidy(cells), {});
      line += lines.length;
    }
    return rows.length > most ? 'enough' : 'more';
  });
  return rows;
}

const hasPairs = (line: string) => (line.match(/"/g)?.length ?? 0) % 2 === 0;

const oddQuotes = (line: number) =>
  `The quotes in line ${line} do not pair up, so where its cells end cannot be told. Put the missing one in, or take the odd one out`;

/**
 * Reads delimited text: comma, semicolon, tab or pipe, with quotes and line breaks inside cells.
 * @throws UnreadableFile when it is empty, not text, too large, or has nothing below its headings.
 */
export function readDelimited(input: Uint8Array | string, choice: ReadingChoice = {}): Table {
  const isPart = choice.most !== undefined;
  const encoding: Table['encoding'] =
    typeof input === 'string'
      ? undefined
      : choice.encoding
        ? { value: choice.encoding, sure: 1, why: 'Chosen by hand' }
        : guessEncoding(input, { isPart });
  const text =
    typeof input === 'string' ? input.replace(/^\uFEFF/, '') : decodeText(input, encoding?.value ?? 'utf-8');
  if (text.trim() === '')
    throw new UnreadableFile('The file is empty. Choose one with a heading row and at least one row.');
  if (looksBinary(text)) {
    throw new UnreadableFile(
      'This is neither text nor a workbook. Save the table as CSV or XLSX and choose that file.',
    );
  }
  const delimiter = choice.delimiter
    ? { value: choice.delimiter, sure: 1, why: 'Chosen by hand' }
    : guessDelimiter(text);
  const most = choice.most ?? LIMITS.rows + 10;
  const rows = rowsOf(text, delimiter.value, most);
  if (rows[0]) checkWidth(rows[0].cells.length);
  checkCells(rows);
  for (const each of rows) {
    if (!each.fault && each.cells.some((cell) => cell.includes(UNREADABLE)))
      each.fault = `Line ${each.line ?? each.row} holds signs that cannot be read in this encoding. Choose another above, or mend the line`;
  }
  const table = withHeadings(rows, choice.headingRow);
  if (!isPart && table.rows.length > LIMITS.rows) throw tooManyRows();
  const notes = [...table.notes, ...notesOn(rows)];
  return { format: 'delimited', ...table, delimiter, encoding, isTyped: false, notes };
}
