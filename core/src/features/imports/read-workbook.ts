import { format, getFormatInfo } from 'numfmt';
import { currencySign } from '../../platform/money';
import {
  damaged,
  fillMerged,
  plainNumber,
  readXml,
  unpack,
  type MergedCells,
  type ReadSheet,
} from './packed-xml';
import { isOpenDocument, readOpenDocument } from './read-open-document';
import {
  checkCells,
  LIMITS,
  tooManyRows,
  UnreadableFile,
  withHeadings,
  type ReadingChoice,
  type Table,
  type TableRow,
  type Sheet,
} from './table';

const DAY_MS = 86_400_000;
/** Bytes of a sheet that are unpacked only to count its rows. */
const COUNTED_UP_TO = 5_000_000;
/** Number formats that are dates without saying so in a pattern. */
const DATE_FORMATS = new Set([
  14, 15, 16, 17, 22, 27, 28, 29, 30, 31, 34, 35, 36, 50, 51, 52, 53, 54, 57, 58,
]);

interface Frame {
  /** The workbook's sheets with the part each stands in. */
  sheets: { name: string; part: string; isHidden: boolean }[];
  startsIn1904: boolean;
}

function frameOf(parts: Record<string, Uint8Array>): Frame {
  const targets = new Map<string, string>();
  readXml(parts['xl/_rels/workbook.xml.rels'], {
    open: ({ name, attributes }) => {
      if (name !== 'Relationship' || attributes.TargetMode === 'External') return;
      const target = attributes.Target;
      targets.set(attributes.Id, target.startsWith('/') ? target.slice(1) : `xl/${target}`);
    },
  });
  const frame: Frame = { sheets: [], startsIn1904: false };
  readXml(parts['xl/workbook.xml'], {
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
  readXml(part, {
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

/** How the cells of a style are shown, as far as that says more than the number. */
type Shown =
  | { as: 'number' | 'date' | 'time' | 'percent' }
  | { as: 'money'; sign: string }
  /** Digits in a pattern, such as a postcode with its zeros. */
  | { as: 'digits'; pattern: string };

/** Patterns that are built in and never written down; those of dates are known by their numbers. */
const BUILT_IN: Readonly<Record<number, string>> = {
  9: '0%',
  10: '0.00%',
  18: 'h:mm AM/PM',
  19: 'h:mm:ss AM/PM',
  20: 'h:mm',
  21: 'h:mm:ss',
  45: 'mm:ss',
  46: '[h]:mm:ss',
  47: 'mm:ss.0',
};

/** Only zeros and what stands between them: 00000, or (000) 000-0000. */
const DIGITS = /^[0#\s()/.+-]*0[0#\s()/.+-]*$/;

/** What stands around the number of a pattern: the sign of a currency, if it is one. */
function signOf(pattern: string): string | undefined {
  const around = format(pattern, 1, { throws: false }).replace(/[\d.,\s\u00a0\u202f'’()-]/g, '');
  return currencySign(around) ? around : undefined;
}

function shownBy(numFmtId: number, pattern = BUILT_IN[numFmtId]): Shown {
  if (pattern === undefined) return { as: DATE_FORMATS.has(numFmtId) ? 'date' : 'number' };
  // Another section shows negative amounts.
  const [first] = pattern.split(';');
  const info = getFormatInfo(first);
  if (info.type === 'time' && !/\[h+\]/i.test(first)) return { as: 'time' };
  if (info.isDate) return { as: info.type === 'time' ? 'number' : 'date' };
  if (info.isPercent) return { as: 'percent' };
  const sign = signOf(first);
  if (sign !== undefined) return { as: 'money', sign };
  const bare = first.replace(/"([^"]*)"|\\(.)|\[[^\]]*\]|_./g, '$1$2');
  const isNumber = /^#?0(\.0+)?$/.test(bare);
  return !isNumber && DIGITS.test(bare) && info.maxDecimals === 0
    ? { as: 'digits', pattern: first }
    : { as: 'number' };
}

/** How the cells of each style are shown. */
function stylesIn(part: Uint8Array | undefined): Shown[] {
  const patterns = new Map<number, string>();
  const styles: Shown[] = [];
  let isWithin = false;
  readXml(part, {
    open: ({ name, attributes }) => {
      if (name === 'numFmt') patterns.set(Number(attributes.numFmtId), attributes.formatCode);
      if (name === 'cellXfs') isWithin = true;
      if (name === 'xf' && isWithin) {
        const id = Number(attributes.numFmtId ?? 0);
        styles.push(shownBy(id, patterns.get(id)));
      }
    },
    close: (name) => {
      if (name === 'cellXfs') isWithin = false;
    },
  });
  return styles;
}

/** A time of day, as part of a day. */
function clockOf(share: number): string {
  const minutes = Math.round((share % 1) * 1440) % 1440;
  return [Math.floor(minutes / 60), minutes % 60].map((each) => String(each).padStart(2, '0')).join(':');
}

/** A number as its cell shows it. */
function numberAsShown(number: number, shown: Shown, startsIn1904: boolean): string {
  switch (shown.as) {
    case 'date':
      return dayOf(number, startsIn1904);
    case 'time':
      // A whole day is in it where the pattern leaves the day out.
      return number >= 1 ? dayOf(number, startsIn1904) : clockOf(number);
    case 'percent':
      return `${plainNumber(number * 100)}%`;
    case 'money':
      return `${shown.sign} ${plainNumber(number)}`;
    case 'digits':
      return format(shown.pattern, number, { throws: false });
    default:
      return plainNumber(number);
  }
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

/** Cells that were merged, named like `A2:A5`. */
function mergedAt(reference: string): MergedCells {
  const [from, to = from] = reference.split(':');
  const rowOf = (cell: string) => Number(cell.replace(/^[A-Z]+/, ''));
  return { row: rowOf(from), column: columnOf(from), rows: rowOf(to) - rowOf(from) + 1 };
}

/** How many rows a sheet has at most, by how often one begins. */
function countRows(part: Uint8Array): number {
  const mark = [0x3c, 0x72, 0x6f, 0x77];
  let count = 0;
  for (let at = part.indexOf(mark[0]); at >= 0; at = part.indexOf(mark[0], at + 1))
    if (
      mark.every((byte, index) => part[at + index] === byte) &&
      /[\s>]/.test(String.fromCharCode(part[at + 4]))
    )
      count += 1;
  return count;
}

function sheetRows(
  part: Uint8Array | undefined,
  texts: readonly string[],
  styles: readonly Shown[],
  startsIn1904: boolean,
  most: number,
): { rows: TableRow[]; uncomputed: number[] } {
  const rows: TableRow[] = [];
  const merged: MergedCells[] = [];
  const uncomputed: number[] = [];
  let row = 0;
  let cells: string[] = [];
  let cell = { column: 0, type: '', style: 0 };
  let value = '';
  let isWithin = false;
  let isFormula = false;
  const shown = (): string => {
    // A formula that was never worked out has no value to be read.
    if (value === '' && isFormula) uncomputed.push(row);
    if (value === '') return '';
    if (cell.type === 's') return texts[Number(value)] ?? '';
    if (cell.type === 'b') return value === '1' ? 'yes' : 'no';
    if (cell.type === 'str' || cell.type === 'inlineStr' || cell.type === 'e') return value;
    if (cell.type === 'd') return value.slice(0, 10);
    const number = Number(value);
    if (!Number.isFinite(number)) return value;
    return numberAsShown(number, styles[cell.style] ?? { as: 'number' }, startsIn1904);
  };
  readXml(part, {
    open: ({ name, attributes }) => {
      if (name === 'row') {
        row = attributes.r ? Number(attributes.r) : row + 1;
        cells = [];
        cell.column = -1;
      } else if (name === 'c') {
        const column = attributes.r ? columnOf(attributes.r) : cell.column + 1;
        cell = { column, type: attributes.t ?? 'n', style: Number(attributes.s ?? 0) };
        value = '';
        isFormula = false;
      } else if (name === 'v' || name === 't') isWithin = true;
      // What a formula says is not read, only what it came to.
      else if (name === 'f') isFormula = true;
      else if (name === 'mergeCell') merged.push(mergedAt(attributes.ref ?? ''));
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
  fillMerged(rows, merged);
  return { rows, uncomputed };
}

/**
 * Reads a sheet of a workbook, in Office Open XML (.xlsx) or as an OpenDocument spreadsheet (.ods): the first that is
 * not hidden and holds more than a line, or the one chosen. Formulas count with the value they came to; macros, links to other files and pictures
 * are left alone.
 * @throws UnreadableFile when it is damaged, protected by a password, unpacks to too much, or holds no table.
 */
export function readWorkbook(bytes: Uint8Array, choice: ReadingChoice = {}): Table {
  const most = choice.most ?? LIMITS.rows + 10;
  const read = isOpenDocument(bytes) ? readOpenDocument : readOfficeOpen;
  const first = read(bytes, choice.sheet, most);
  // Before the table there may be a sheet that only says something.
  const isTable = (each: Sheet) => !each.isHidden && each.name !== first.sheet && (each.rows ?? 2) > 1;
  const other = choice.sheet === undefined && first.rows.length < 2 ? first.sheets.find(isTable) : undefined;
  const { sheet, sheets, rows, notes } = other ? read(bytes, other.name, most) : first;
  if (other) notes.unshift(`The sheet “${first.sheet}” holds no table, so “${other.name}” was read.`);
  if (rows.length === 0) {
    throw new UnreadableFile(`The sheet “${sheet}” is empty. Choose another sheet or file.`);
  }
  checkCells(rows);
  const table = withHeadings(rows, choice.headingRow);
  if (choice.most === undefined && table.rows.length > LIMITS.rows) throw tooManyRows();
  return {
    format: 'workbook',
    ...table,
    sheet,
    sheets,
    isTyped: true,
    notes: [...table.notes, ...notes],
  };
}

function readOfficeOpen(bytes: Uint8Array, chosen: string | undefined, most: number): ReadSheet {
  let hasMacros = false;
  const parts = unpack(bytes, (name) => {
    hasMacros ||= name.endsWith('vbaProject.bin');
    return /^xl\/(workbook\.xml|_rels\/workbook\.xml\.rels|sharedStrings\.xml|styles\.xml)$/.test(name);
  });
  const { sheets, startsIn1904 } = frameOf(parts);
  if (sheets.length === 0) throw damaged();
  const sheet =
    sheets.find(({ name }) => name === chosen) ?? sheets.find(({ isHidden }) => !isHidden) ?? sheets[0];
  const [page] = Object.values(unpack(bytes, (name) => name === sheet.part));
  const texts = sharedTexts(parts['xl/sharedStrings.xml']);
  const { rows, uncomputed } = sheetRows(page, texts, stylesIn(parts['xl/styles.xml']), startsIn1904, most);
  const [first, ...more] = uncomputed;
  const never = more.length === 0 ? 'A formula' : `${uncomputed.length} formulas`;
  return {
    sheet: sheet.name,
    sheets: sheets.map(({ name, part, isHidden }) => ({ name, rows: countIn(bytes, part), isHidden })),
    rows,
    notes: [
      ...(hasMacros ? ['The macros in this workbook were not looked at.'] : []),
      ...(first === undefined
        ? []
        : [
            `${never} (row ${first}${more.length > 0 ? ' and on' : ''}) ${more.length === 0 ? 'holds' : 'hold'} no value, as nobody has worked them out: open the workbook, save it, and choose it again.`,
          ]),
    ],
  };
}

/** How many rows a sheet has, unless unpacking it takes long. */
function countIn(bytes: Uint8Array, part: string): number | undefined {
  const [page] = Object.values(
    unpack(bytes, (name, unpacked) => name === part && unpacked <= COUNTED_UP_TO),
  ) as (Uint8Array | undefined)[];
  return page && countRows(page);
}
