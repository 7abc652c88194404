import {
  damaged,
  fillMerged,
  plainNumber,
  readXml,
  unpack,
  type MergedCells,
  type ReadSheet,
} from './packed-xml';
import { LIMITS, UnreadableFile, type TableRow } from './table';

const MARK = 'application/vnd.oasis.opendocument.spreadsheet';
/** Where the first part of a package stands, which says what the package is (OpenDocument 1.3, part 2, 3.3). */
const MARK_AT = 38;

/** Whether a packed file says that it is an OpenDocument spreadsheet. */
export const isOpenDocument = (bytes: Uint8Array) =>
  new TextDecoder().decode(bytes.subarray(MARK_AT, MARK_AT + MARK.length)) === MARK;

type Attributes = Readonly<Record<string, string>>;

/** A number as its cell shows it: with the zeros in front that a pattern gives it. */
function numberAsShown(value: string, shown: string): string {
  if (/^0\d+$/.test(shown) && Number(shown) === Number(value)) return shown;
  const number = Number(value);
  return Number.isFinite(number) ? plainNumber(number) : shown;
}

/** A length of time such as `PT14H30M00S` as a time of day; as it is shown where it is longer than a day. */
function clockOf(value: string, shown: string): string {
  const [, hours, minutes] = /^PT(\d+)H(\d+)M/.exec(value) ?? [];
  return hours === undefined || Number(hours) > 23 ? shown : `${hours}:${minutes}`;
}

/** What a cell says, by its type. */
function valueOf(attributes: Attributes, shown: string): string {
  const value = attributes['office:value'] ?? '';
  switch (attributes['office:value-type']) {
    case 'float':
      return numberAsShown(value, shown);
    case 'percentage':
      return `${plainNumber(Number(value) * 100)}%`;
    case 'currency':
      return `${attributes['office:currency'] ?? ''} ${plainNumber(Number(value))}`.trim();
    case 'date':
      return (attributes['office:date-value'] ?? shown)
        .slice(0, 16)
        .replace('T', ' ')
        .replace(/ 00:00$/, '');
    case 'time':
      return clockOf(attributes['office:time-value'] ?? '', shown);
    case 'boolean':
      return attributes['office:boolean-value'] === 'true' ? 'yes' : 'no';
    default:
      return shown;
  }
}

const times = (attributes: Attributes, what: string) => Math.max(1, Number(attributes[what] ?? 1) || 1);

interface Sheet {
  name: string;
  isHidden: boolean;
  /** How many rows hold something. */
  rows: number;
}

/** The sheets of the content, and the rows of one of them as far as they hold something. */
class Content {
  readonly sheets: Sheet[] = [];
  /** The sheet whose rows are read. */
  read?: Sheet;
  readonly rows: TableRow[] = [];
  private readonly merged: MergedCells[] = [];
  private readonly hidden = new Set<string>();
  private sheet?: Sheet;
  private row = 0;
  private repeated = 1;
  private cells: string[] = [];
  private column = 0;
  private cell: Attributes = {};
  private text = '';
  /** How deep it is within a remark on a cell, whose text is none of the cell. */
  private remark = 0;
  private isWithin = false;
  private style = '';

  /** @param isWanted whether a sheet may be the one that is read; the first of them is. */
  constructor(
    part: Uint8Array,
    private readonly isWanted: (sheet: Sheet) => boolean,
  ) {
    readXml(part, {
      open: ({ name, attributes }) => this.open(name, attributes),
      close: (name) => this.close(name),
      text: (text) => {
        if (this.isWithin && this.remark === 0) this.text += text;
      },
    });
    fillMerged(this.rows, this.merged);
  }

  private open(name: string, attributes: Attributes): void {
    if (name === 'annotation') this.remark += 1;
    else if (name === 'style') this.style = attributes['style:name'] ?? '';
    else if (name === 'table-properties') {
      if (attributes['table:display'] === 'false') this.hidden.add(this.style);
    } else if (name === 'table') {
      this.row = 0;
      const isHidden = this.hidden.has(attributes['table:style-name'] ?? '');
      this.sheet = { name: attributes['table:name'] ?? '', isHidden, rows: 0 };
      this.sheets.push(this.sheet);
      if (!this.read && this.isWanted(this.sheet)) this.read = this.sheet;
    } else if (name === 'table-row') {
      this.repeated = times(attributes, 'table:number-rows-repeated');
      this.cells = [];
      this.column = 0;
    } else if (name === 'table-cell' || name === 'covered-table-cell') {
      this.cell = attributes;
      this.text = '';
    } else if (this.remark > 0) return;
    else if (name === 'p') {
      if (this.text !== '') this.text += '\n';
      this.isWithin = true;
    } else if (name === 's') this.text += ' '.repeat(Math.min(times(attributes, 'text:c'), 100));
    else if (name === 'tab') this.text += '\t';
    else if (name === 'line-break') this.text += '\n';
  }

  private close(name: string): void {
    if (name === 'annotation') this.remark -= 1;
    else if (name === 'p' && this.remark === 0) this.isWithin = false;
    else if (name === 'table-cell' || name === 'covered-table-cell') this.endCell();
    else if (name === 'table-row') this.endRow();
  }

  private endCell(): void {
    const count = times(this.cell, 'table:number-columns-repeated');
    const value = valueOf(this.cell, this.text).trim();
    const spanned = times(this.cell, 'table:number-rows-spanned');
    if (value !== '' && spanned > 1 && this.sheet === this.read)
      this.merged.push({ row: this.row + 1, column: this.column, rows: spanned });
    // The rest of a row is one empty cell that is repeated to the last column there is.
    const end = Math.min(this.column + count, 2 * LIMITS.columns);
    for (let column = this.column; value !== '' && column < end; column += 1) {
      while (this.cells.length < column) this.cells.push('');
      this.cells[column] = value;
    }
    this.column += count;
  }

  private endRow(): void {
    const first = this.row + 1;
    this.row += this.repeated;
    if (this.cells.length === 0 || !this.sheet) return;
    this.sheet.rows += this.repeated;
    if (this.sheet !== this.read) return;
    const last = Math.min(this.row, first + LIMITS.rows);
    for (let row = first; row <= last && this.rows.length <= LIMITS.rows + 10; row += 1)
      this.rows.push({ row, cells: [...this.cells] });
  }
}

/**
 * Reads a sheet of an OpenDocument spreadsheet (ISO/IEC 26300): the first that is not hidden, or the one chosen.
 * @throws UnreadableFile when it is damaged, protected by a password, or unpacks to too much.
 */
export function readOpenDocument(bytes: Uint8Array, chosen: string | undefined, most: number): ReadSheet {
  const parts = unpack(bytes, (name) => name === 'content.xml' || name === 'META-INF/manifest.xml');
  let isLocked = false;
  readXml(parts['META-INF/manifest.xml'], {
    open: ({ name }) => {
      isLocked ||= name === 'encryption-data';
    },
  });
  if (isLocked)
    throw new UnreadableFile(
      'This spreadsheet is protected by a password. Save it without one and choose it again.',
    );
  const part = parts['content.xml'] as Uint8Array | undefined;
  if (!part) throw damaged();
  // Tried one after the other, as which sheets there are is known only at the end.
  const wanted: ((sheet: Sheet) => boolean)[] = [
    ...(chosen === undefined ? [] : [({ name }: Sheet) => name === chosen]),
    ({ isHidden }) => !isHidden,
    () => true,
  ];
  for (const isWanted of wanted) {
    const { read, sheets, rows } = new Content(part, isWanted);
    if (read)
      return {
        sheet: read.name,
        sheets: sheets.map(({ name, rows: count, isHidden }) => ({ name, rows: count, isHidden })),
        rows: rows.slice(0, most),
        notes: [],
      };
  }
  throw damaged();
}
