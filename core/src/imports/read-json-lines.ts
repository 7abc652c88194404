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

/**
 * Reads JSON lines, a row an object.
 * @throws UnreadableFile naming the line that is not an object.
 */
export function readJsonLines(input: Uint8Array | string, choice: ReadingChoice = {}): Table {
  const isPart = choice.most !== undefined;
  const encoding = typeof input === 'string' ? undefined : guessEncoding(input, { isPart });
  const text =
    typeof input === 'string' ? input : decodeText(input, choice.encoding ?? encoding?.value ?? 'utf-8');
  const objects: { row: number; value: object }[] = [];
  for (const [index, line] of text.split('\n').entries()) {
    if (line.trim() === '') continue;
    if (objects.length >= (choice.most ?? Infinity)) break;
    let value: unknown;
    try {
      value = JSON.parse(line);
    } catch {
      throw new UnreadableFile(`Line ${index + 1} is not JSON. Each line must hold one object.`);
    }
    if (typeof value !== 'object' || value === null || Array.isArray(value))
      throw new UnreadableFile(
        `Line ${index + 1} is not an object. Each line must hold one, as {"name": "…"}.`,
      );
    objects.push({ row: index + 1, value });
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
