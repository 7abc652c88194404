import { decodeText, guessEncoding } from './decode-text';
import {
  checkCells,
  checkWidth,
  LIMITS,
  tooManyRows,
  UnreadableFile,
  type ReadingChoice,
  type Table,
} from './table';

/** A value as a cell shows it; what an object holds one level down gets a heading of its own. */
function* cellsOf(value: object, prefix = ''): Generator<[string, string]> {
  for (const [key, inner] of Object.entries(value) as [string, unknown][]) {
    const heading = prefix ? `${prefix} ${key}` : key;
    if (inner === null || inner === undefined) yield [heading, ''];
    else if (Array.isArray(inner)) yield [heading, inner.map((each) => shown(each)).join(', ')];
    else if (typeof inner === 'object' && !prefix) yield* cellsOf(inner, heading);
    else yield [heading, shown(inner)];
  }
}

/** A value that is no object of headings of its own, as text. */
function shown(value: unknown): string {
  if (value === null || value === undefined) return '';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  return typeof value === 'string' || typeof value === 'number'
    ? String(value).trim()
    : JSON.stringify(value);
}

/** The values of JSON lines, each with the line it stands in. */
function* valuesByLine(text: string): Generator<{ row: number; value: unknown }> {
  for (const [index, line] of text.split('\n').entries()) {
    if (line.trim() === '') continue;
    try {
      yield { row: index + 1, value: JSON.parse(line) as unknown };
    } catch {
      throw new UnreadableFile(`Line ${index + 1} is not JSON. Each line must hold one object.`);
    }
  }
}

/** The members of one JSON array, counted from 1. */
function* valuesOfArray(text: string): Generator<{ row: number; value: unknown }> {
  let values: unknown[];
  try {
    values = JSON.parse(text) as unknown[];
  } catch (error) {
    throw new UnreadableFile(`The JSON of this file is broken: ${(error as Error).message}.`);
  }
  for (const [index, value] of values.entries()) yield { row: index + 1, value };
}

/**
 * Reads JSON, a row an object: one a line, or all in one array.
 * @throws UnreadableFile naming the line that is not an object.
 */
export function readJsonLines(input: Uint8Array | string, choice: ReadingChoice = {}): Table {
  const isPart = choice.most !== undefined;
  const encoding = typeof input === 'string' ? undefined : guessEncoding(input, { isPart });
  const text =
    typeof input === 'string' ? input : decodeText(input, choice.encoding ?? encoding?.value ?? 'utf-8');
  const objects: { row: number; value: object }[] = [];
  const [values, place] = text.trimStart().startsWith('[')
    ? [valuesOfArray(text), 'Member']
    : [valuesByLine(text), 'Line'];
  for (const { row, value } of values) {
    if (objects.length >= (choice.most ?? Infinity)) break;
    if (typeof value !== 'object' || value === null || Array.isArray(value))
      throw new UnreadableFile(`${place} ${row} is not an object. Each must be one, as {"name": "…"}.`);
    objects.push({ row, value });
  }
  if (objects.length === 0) throw new UnreadableFile('The file is empty.');
  if (objects.length > LIMITS.rows) throw tooManyRows();
  const columns = new Map<string, number>();
  const rows = objects.map(({ row, value }) => {
    const cells: string[] = [];
    for (const [heading, cell] of cellsOf(value)) {
      const column = columns.get(heading) ?? columns.size;
      columns.set(heading, column);
      while (cells.length < column) cells.push('');
      cells[column] = cell;
    }
    return { row, cells };
  });
  checkWidth(columns.size);
  checkCells(rows);
  const headings = [...columns.keys()];
  return {
    format: 'jsonLines',
    headings,
    rows: rows.map(({ row, cells }) => ({
      row,
      cells: headings.map((_, column) => cells[column] ?? ''),
    })),
    headingRow: { value: 0, sure: 1, why: 'Each line names its fields' },
    encoding,
    isTyped: true,
    notes: [],
  };
}
