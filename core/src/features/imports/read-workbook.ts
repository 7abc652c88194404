import { unzipSync, type UnzipFileInfo } from 'fflate';
import { SaxesParser, type SaxesTagPlain } from 'saxes';
import {
  checkCells,
  LIMITS,
  tooManyRows,
  UnreadableFile,
  withHeadings,
  type ReadingChoice,
  type Table,
  type TableRow,
} from './table';

/** Bytes of a part read at a time, so that no second copy of it is ever whole in memory. */
const CHUNK = 1 << 20;
const DAY_MS = 86_400_000;
/** Number formats that are dates without saying so in a pattern. */
const DATE_FORMATS = new Set([14, 15, 16, 17, 18, 19, 20, 21, 22, 45, 46, 47]);

const damaged = () =>
  new UnreadableFile(
    'This workbook is damaged and cannot be read. Open it, save it again, and choose that file.',
  );

/** Unpacks the parts wanted; refuses what would unpack to far more than a workbook holds. */
function unpack(bytes: Uint8Array, wanted: (name: string) => boolean): Record<string, Uint8Array> {
  const filter = ({ name, originalSize, size }: UnzipFileInfo) => {
    if (!wanted(name)) return false;
    if (originalSize > LIMITS.unpacked || (originalSize > 10_000_000 && originalSize > size * 400)) {
      throw new UnreadableFile(
        `A part of this workbook unpacks to ${Math.round(originalSize / 1e6)} MB, more than any table of ${LIMITS.rows.toLocaleString('en-GB')} rows. Nothing of it was read.`,
      );
    }
    return true;
  };
  try {
    return unzipSync(bytes, { filter });
  } catch (error) {
    if (error instanceof UnreadableFile) throw error;
    throw damaged();
  }
}

interface Ears {
  open?: (tag: SaxesTagPlain) => void;
  close?: (name: string) => void;
  text?: (text: string) => void;
  /** Whether enough has been read. */
  isDone?: () => boolean;
}

const local = (name: string) => name.slice(name.indexOf(':') + 1);

/** Reads one XML part, chunk by chunk. */
function read(part: Uint8Array | undefined, { open, close, text, isDone }: Ears): void {
  if (!part) return;
  const parser = new SaxesParser<{ xmlns: false; position: false }>({ xmlns: false, position: false });
  parser.on('error', () => {
    throw damaged();
  });
  if (open) parser.on('opentag', (tag) => open({ ...tag, name: local(tag.name) }));
  if (close) parser.on('closetag', (tag) => close(local(tag.name)));
  if (text) parser.on('text', text);
  const decoder = new TextDecoder();
  for (let from = 0; from < part.length && !isDone?.(); from += CHUNK)
    parser.write(decoder.decode(part.subarray(from, from + CHUNK), { stream: true }));
}

interface Frame {
  /** The workbook's sheets with the part each stands in. */
  sheets: { name: string; part: string; isHidden: boolean }[];
  startsIn1904: boolean;
}

function frameOf(parts: Record<string, Uint8Array>): Frame {
  const targets = new Map<string, string>();
  read(parts['xl/_rels/workbook.xml.rels'], {
    open: ({ name, attributes }) => {
      if (name !== 'Relationship' || attributes.TargetMode === 'External') return;
      const target = attributes.Target;
      targets.set(attributes.Id, target.startsWith('/') ? target.slice(1) : `xl/${target}`);
    },
  });
  const frame: Frame = { sheets: [], startsIn1904: false };
  read(parts['xl/workbook.xml'], {
    open: ({ name, attributes }) => {
      if (name === 'workbookPr') frame.startsIn1904 = /^(1|true)$/.test(attributes.date1904 ?? '');
      if (name !== 'sheet') return;
      const part = targets.get(attributes['r:id'] ?? '');
      const isHidden = (attributes.state ?? 'visible') !== 'visible';
      if (part) frame.sheets.push({ name: attributes.name, part, isHidden });
    },
  });
  return frame;
}

/** The texts that cells refer to by number. */
function sharedTexts(part: Uint8Array | undefined): string[] {
  const texts: string[] = [];
  let current = '';
  let isWithin = false;
  let isPhonetic = false;
  read(part, {
    open: ({ name }) => {
      if (name === 'si') current = '';
      if (name === 't') isWithin = !isPhonetic;
      if (name === 'rPh') isPhonetic = true;
    },
    close: (name) => {
      if (name === 'si') texts.push(current);
      if (name === 't') isWithin = false;
      if (name === 'rPh') isPhonetic = false;
    },
    text: (text) => {
      if (isWithin) current += text;
    },
  });
  return texts;
}

/** Which cell styles show a date. */
function dateStyles(part: Uint8Array | undefined): boolean[] {
  const dates = new Set(DATE_FORMATS);
  const styles: boolean[] = [];
  let isWithin = false;
  read(part, {
    open: ({ name, attributes }) => {
      if (name === 'numFmt') {
        // Letters in quotes or brackets are said, not filled in.
        const pattern = attributes.formatCode.replace(/"[^"]*"|\[[^\]]*\]|\\./g, '');
        if (/[dmyhs]/i.test(pattern) && !/general/i.test(pattern)) dates.add(Number(attributes.numFmtId));
      }
      if (name === 'cellXfs') isWithin = true;
      if (name === 'xf' && isWithin) styles.push(dates.has(Number(attributes.numFmtId)));
    },
    close: (name) => {
      if (name === 'cellXfs') isWithin = false;
    },
  });
  return styles;
}

/** A date as a workbook counts it, as `2026-03-31` or, with a time, `2026-03-31 14:30`. */
function dayOf(serial: number, startsIn1904: boolean): string {
  const start = startsIn1904 ? Date.UTC(1904, 0, 1) : Date.UTC(1899, 11, 30);
  const instant = new Date(start + Math.round(serial * DAY_MS));
  if (Number.isNaN(instant.getTime())) return String(serial);
  const [day, time] = instant.toISOString().split('T');
  return serial % 1 === 0 ? day : `${day} ${time.slice(0, 5)}`;
}

/** The column of a cell named like `AB12`, counted from 0. */
function columnOf(reference: string): number {
  let column = 0;
  for (const letter of reference) {
    const value = letter.charCodeAt(0) - 64;
    if (value < 1 || value > 26) break;
    column = column * 26 + value;
  }
  return column - 1;
}

function sheetRows(
  part: Uint8Array | undefined,
  texts: readonly string[],
  isDate: readonly boolean[],
  startsIn1904: boolean,
  most: number,
): TableRow[] {
  const rows: TableRow[] = [];
  let row = 0;
  let cells: string[] = [];
  let cell = { column: 0, type: '', style: 0 };
  let value = '';
  let isWithin = false;
  const shown = (): string => {
    if (value === '') return '';
    if (cell.type === 's') return texts[Number(value)] ?? '';
    if (cell.type === 'b') return value === '1' ? 'yes' : 'no';
    if (cell.type === 'str' || cell.type === 'inlineStr' || cell.type === 'e') return value;
    if (cell.type === 'd') return value.slice(0, 10);
    const number = Number(value);
    if (!Number.isFinite(number)) return value;
    return isDate[cell.style] ? dayOf(number, startsIn1904) : String(number);
  };
  read(part, {
    open: ({ name, attributes }) => {
      if (name === 'row') {
        row = attributes.r ? Number(attributes.r) : row + 1;
        cells = [];
        cell.column = -1;
      } else if (name === 'c') {
        const column = attributes.r ? columnOf(attributes.r) : cell.column + 1;
        cell = { column, type: attributes.t ?? 'n', style: Number(attributes.s ?? 0) };
        value = '';
      } else if (name === 'v' || name === 't') isWithin = true;
      // What a formula says is not read, only what it came to.
    },
    close: (name) => {
      if (name === 'v' || name === 't') isWithin = false;
      else if (name === 'c' && cell.column >= 0 && cell.column < 2 * LIMITS.columns) {
        const text = shown().trim();
        if (text === '') return;
        while (cells.length < cell.column) cells.push('');
        cells[cell.column] = text;
      } else if (name === 'row' && cells.length > 0) rows.push({ row, cells });
    },
    text: (text) => {
      if (isWithin) value += text;
    },
    isDone: () => rows.length > most,
  });
  return rows;
}

/** Fills short rows up: a workbook does not write empty cells at the end of a row. */
const squared = (table: Pick<Table, 'headings' | 'rows'>): TableRow[] =>
  table.rows.map(({ row, cells }) => ({
    row,
    cells: Array.from(
      { length: Math.max(cells.length, table.headings.length) },
      (_, index) => cells[index] ?? '',
    ),
  }));

/**
 * Reads a sheet of a workbook in Office Open XML (.xlsx): the first that is not hidden, or the one chosen. Formulas
 * count with the value they came to; macros, links to other files and pictures are left alone.
 * @throws UnreadableFile when it is damaged, protected by a password, unpacks to too much, or holds no table.
 */
export function readWorkbook(bytes: Uint8Array, choice: ReadingChoice = {}): Table {
  let hasMacros = false;
  const parts = unpack(bytes, (name) => {
    hasMacros ||= name.endsWith('vbaProject.bin');
    return /^xl\/(workbook\.xml|_rels\/workbook\.xml\.rels|sharedStrings\.xml|styles\.xml)$/.test(name);
  });
  const { sheets, startsIn1904 } = frameOf(parts);
  if (sheets.length === 0) throw damaged();
  const sheet =
    sheets.find(({ name }) => name === choice.sheet) ?? sheets.find(({ isHidden }) => !isHidden) ?? sheets[0];
  const [page] = Object.values(unpack(bytes, (name) => name === sheet.part));
  const texts = sharedTexts(parts['xl/sharedStrings.xml']);
  const most = choice.most ?? LIMITS.rows + 10;
  const rows = sheetRows(page, texts, dateStyles(parts['xl/styles.xml']), startsIn1904, most);
  if (rows.length === 0) {
    throw new UnreadableFile(`The sheet “${sheet.name}” is empty. Choose another sheet or file.`);
  }
  checkCells(rows);
  const table = withHeadings(rows, choice.headingRow);
  if (choice.most === undefined && table.rows.length > LIMITS.rows) throw tooManyRows();
  return {
    format: 'workbook',
    ...table,
    rows: squared(table),
    sheet: sheet.name,
    sheets: sheets.map(({ name }) => name),
    isTyped: true,
    notes: hasMacros ? ['The macros in this workbook were not looked at.'] : [],
  };
}
