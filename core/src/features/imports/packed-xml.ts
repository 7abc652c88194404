import { unzipSync, type UnzipFileInfo } from 'fflate';
import { SaxesParser, type SaxesTagPlain } from 'saxes';
import { LIMITS, UnreadableFile, type Sheet, type TableRow } from './table';

/** Bytes of a part read at a time, so that no second copy of it is ever whole in memory. */
const CHUNK = 1 << 20;

export const damaged = () =>
  new UnreadableFile(
    'This workbook is damaged and cannot be read. Open it, save it again, and choose that file.',
  );

/** Unpacks the parts wanted; refuses what would unpack to far more than a workbook holds. */
export function unpack(
  bytes: Uint8Array,
  wanted: (name: string, unpacked: number) => boolean,
): Record<string, Uint8Array> {
  const filter = ({ name, originalSize, size }: UnzipFileInfo) => {
    if (!wanted(name, originalSize)) return false;
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

/** What is done with what stands in a part, as it is come across. */
interface Handlers {
  open?: (tag: SaxesTagPlain) => void;
  close?: (name: string) => void;
  text?: (text: string) => void;
  /** Whether enough has been read. */
  isDone?: () => boolean;
}

const local = (name: string) => name.slice(name.indexOf(':') + 1);

/** Reads one XML part, chunk by chunk. */
export function readXml(part: Uint8Array | undefined, { open, close, text, isDone }: Handlers): void {
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

/** Cells that were merged into one: from a row and a column over so many rows. */
export interface MergedCells {
  row: number;
  column: number;
  rows: number;
}

/** Gives what stands in cells that were merged downwards to every row they cover. */
export function fillMerged(rows: readonly TableRow[], merged: readonly MergedCells[]): void {
  if (merged.length === 0) return;
  const byRow = new Map(rows.map((row) => [row.row, row]));
  const last = rows.at(-1)?.row ?? 0;
  /** The last row that is covered in each column: no cell is part of two, whatever a file says. */
  const covered = new Map<number, number>();
  for (const { row, column, rows: count } of [...merged].sort((a, b) => a.row - b.row)) {
    const value = byRow.get(row)?.cells[column];
    if (!value || row <= (covered.get(column) ?? 0)) continue;
    const end = Math.min(row + count - 1, last);
    covered.set(column, end);
    for (let below = row + 1; below <= end; below += 1) {
      const cells = byRow.get(below)?.cells;
      if (!cells || cells[column]) continue;
      while (cells.length < column) cells.push('');
      cells[column] = value;
    }
  }
}

/** A number without the binary noise behind its fifteenth digit. */
export const plainNumber = (number: number) => String(Number(number.toPrecision(15)));

/** A sheet as it was read, and which there are. */
export interface ReadSheet {
  sheet: string;
  sheets: Sheet[];
  rows: TableRow[];
  notes: string[];
}
