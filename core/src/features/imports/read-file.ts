import { readCards } from './read-cards';
import { readDelimited } from './read-delimited';
import { readJsonLines } from './read-json-lines';
import { readWorkbook } from './read-workbook';
import { decodeText, guessEncoding } from './decode-text';
import { splitColumns } from './split-column';
import { LIMITS, UnreadableFile, type FileFormat, type ReadingChoice, type Table } from './table';

/** Bytes that tell what a file is. */
const BEGINNING = 4096;
/** Of delimited text this much is enough for a first look. */
const FIRST_BYTES = 512 * 1024;
const FIRST_ROWS = 200;

const startsWith = (bytes: Uint8Array, mark: readonly number[]) =>
  mark.every((byte, at) => bytes[at] === byte);

/** What a file is, by how it begins; its name is not believed. */
export function formatOf(bytes: Uint8Array): FileFormat {
  if (startsWith(bytes, [0x50, 0x4b, 0x03, 0x04])) return 'workbook';
  if (startsWith(bytes, [0xd0, 0xcf, 0x11, 0xe0])) {
    throw new UnreadableFile(
      'This is a workbook of the old kind, or one protected by a password. Save it as XLSX without a password.',
    );
  }
  const beginning = bytes.subarray(0, BEGINNING);
  const text = decodeText(beginning, guessEncoding(beginning, { isPart: true }).value).trimStart();
  if (/^BEGIN:VCARD/i.test(text)) return 'cards';
  if (/^(\{|\[\s*\{)/.test(text)) return 'jsonLines';
  return 'delimited';
}

const readers: Record<FileFormat, (bytes: Uint8Array, choice?: ReadingChoice) => Table | Promise<Table>> = {
  delimited: readDelimited,
  workbook: readWorkbook,
  cards: readCards,
  jsonLines: readJsonLines,
};

/**
 * Reads a whole file, whatever of the four kinds it is.
 * @throws UnreadableFile (the promise rejects) with what is wrong and what to do.
 */
export async function readFile(bytes: Uint8Array, choice: ReadingChoice = {}): Promise<Table> {
  if (bytes.length > LIMITS.bytes) {
    throw new UnreadableFile(
      'The file is larger than 50 MB. Split it and import the parts one after the other.',
    );
  }
  if (bytes.length === 0) {
    throw new UnreadableFile('The file is empty. Choose one with a heading row and at least one row.');
  }
  return splitColumns(await readers[formatOf(bytes)](bytes, choice), choice.split);
}

/** Whether JSON is one array, which can only be read as a whole. */
const isArray = (bytes: Uint8Array) =>
  decodeText(
    bytes.subarray(0, BEGINNING),
    guessEncoding(bytes.subarray(0, BEGINNING), { isPart: true }).value,
  )
    .trimStart()
    .startsWith('[');

/** Reads as much of a file as a first look shows, however large it is. */
export async function readBeginning(bytes: Uint8Array, choice: ReadingChoice = {}): Promise<Table> {
  const format = bytes.length === 0 ? 'delimited' : formatOf(bytes);
  const isWhole = format === 'workbook' || (format === 'jsonLines' && isArray(bytes));
  if (isWhole || bytes.length <= FIRST_BYTES) return readFile(bytes, { ...choice, most: FIRST_ROWS });
  // The part ends between two lines, so that its last row is whole.
  const part = bytes.subarray(0, Math.max(bytes.subarray(0, FIRST_BYTES).lastIndexOf(10), 1) + 1);
  return splitColumns(await readers[format](part, { ...choice, most: FIRST_ROWS }), choice.split);
}
