import Papa from 'papaparse';

/** A file's cells as text: the first row as headings, the others padded or refused later by their own length. */
export interface Table {
  headings: string[];
  rows: TableRow[];
  delimiter: string;
}

export interface TableRow {
  /** Line of the record in the file as a spreadsheet counts rows, the heading being row 1. */
  row: number;
  cells: string[];
}

/** The whole file cannot be read; the message says why and what to do. */
export class UnreadableFile extends Error {}

export const LIMITS = { rows: 100_000, columns: 200, characters: 8_000_000, cell: 20_000 } as const;

/** Share of control characters above which a file is taken for something other than text. */
const BINARY_SHARE = 0.01;

function looksBinary(text: string): boolean {
  const sample = text.slice(0, 4096);
  if (sample.includes('\0')) return true;
  let odd = 0;
  for (const letter of sample) {
    const code = letter.codePointAt(0) ?? 0;
    if (code === 0xfffd || (code < 32 && code !== 9 && code !== 10 && code !== 13)) odd += 1;
  }
  return odd > sample.length * BINARY_SHARE;
}

const DELIMITERS = [',', ';', '\t', '|'];

/** The delimiter that cuts the heading row most often, quoted names aside; a comma when none does. */
function delimiterOf(body: string): string {
  const headings = body.slice(0, body.search(/\r|\n|$/)).replace(/"[^"]*"/g, '');
  const cuts = (delimiter: string) => headings.split(delimiter).length;
  return DELIMITERS.reduce((best, delimiter) => (cuts(delimiter) > cuts(best) ? delimiter : best));
}

/** A heading row holds names: text in every filled cell, no mail addresses and no bare numbers. */
function looksLikeHeadings(cells: readonly string[]): boolean {
  const filled = cells.filter((cell) => cell !== '');
  return filled.length > 0 && filled.every((cell) => !cell.includes('@') && !/^[+\d\s.,/-]+$/.test(cell));
}

/**
 * Reads delimited text: comma, semicolon, tab or pipe, with quotes and line breaks inside cells.
 * @throws UnreadableFile when it is empty, binary, too large, or has no heading row.
 */
export function readTable(text: string): Table {
  const body = text.replace(/^\uFEFF/, '');
  if (body.trim() === '')
    throw new UnreadableFile('The file is empty. Choose one with a heading row and at least one row.');
  if (body.length > LIMITS.characters) {
    throw new UnreadableFile(
      'The file is larger than 8 MB. Split it and import the parts one after the other.',
    );
  }
  if (looksBinary(body)) {
    throw new UnreadableFile('This is not a text file. Save the table as CSV (UTF-8) and choose that file.');
  }
  const parsed = Papa.parse<string[]>(body, {
    delimiter: delimiterOf(body),
    skipEmptyLines: false,
  });
  const [first, ...rest] = parsed.data.map((cells) => cells.map((cell) => cell.trim()));
  const headings = first ?? [];
  if (!looksLikeHeadings(headings)) {
    throw new UnreadableFile(
      'Row 1 must hold the column names, such as Name, Organisation and Mail. Add a heading row.',
    );
  }
  if (headings.length > LIMITS.columns) {
    throw new UnreadableFile(
      `The file has ${headings.length} columns; at most ${LIMITS.columns} can be read.`,
    );
  }
  const rows = rest
    .map((cells, index) => ({ row: index + 2, cells }))
    .filter(({ cells }) => cells.some((cell) => cell !== ''));
  if (rows.length === 0) throw new UnreadableFile('The file has column names but no rows below them.');
  if (rows.length > LIMITS.rows) {
    throw new UnreadableFile(`The file has ${rows.length} rows; at most ${LIMITS.rows} go in at once.`);
  }
  return { headings, rows, delimiter: parsed.meta.delimiter };
}
