import Papa from 'papaparse';
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

/** The rows of delimited text, empty ones left out, each with its place in the file. */
function rowsOf(text: string, delimiter: string, most: number): TableRow[] {
  const rows: TableRow[] = [];
  let row = 0;
  Papa.parse<string[]>(text, {
    delimiter,
    skipEmptyLines: false,
    step: ({ data }, parser) => {
      row += 1;
      const cells = data.map((cell) => cell.trim());
      if (cells.some((cell) => cell !== '')) rows.push({ row, cells });
      if (rows.length > most) parser.abort();
    },
  });
  return rows;
}

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
  const table = withHeadings(rows, choice.headingRow);
  if (!isPart && table.rows.length > LIMITS.rows) throw tooManyRows();
  return { format: 'delimited', ...table, delimiter, encoding, isTyped: false, notes: [] };
}
