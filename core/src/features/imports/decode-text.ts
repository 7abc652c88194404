import { type Encoding, type Guess } from './table';

const MARKS: readonly [Encoding, readonly number[]][] = [
  ['utf-8', [0xef, 0xbb, 0xbf]],
  ['utf-16le', [0xff, 0xfe]],
  ['utf-16be', [0xfe, 0xff]],
];
/** Bytes looked at for the pattern of zeros that two-byte text shows. */
const SAMPLE = 4000;

/** The bytes as UTF-8 text; undefined when they are none. */
function asUtf8(bytes: Uint8Array, isPart: boolean): string | undefined {
  try {
    // A part of a file may end within a letter.
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes, { stream: isPart });
  } catch {
    return undefined;
  }
}

/** Where zeros stand among the first bytes: text in two bytes a letter has them on one side. */
function zeros(bytes: Uint8Array): { even: number; odd: number } {
  const count = { even: 0, odd: 0 };
  const sample = bytes.subarray(0, SAMPLE);
  for (const [index, byte] of sample.entries()) if (byte === 0) count[index % 2 === 0 ? 'even' : 'odd'] += 1;
  return { even: (2 * count.even) / sample.length, odd: (2 * count.odd) / sample.length };
}

/** Which encoding the bytes of a text file are in. */
export function guessEncoding(bytes: Uint8Array, { isPart = false } = {}): Guess<Encoding> {
  for (const [value, mark] of MARKS)
    if (mark.every((byte, index) => bytes[index] === byte))
      return { value, sure: 1, why: 'The file begins with the mark of this encoding' };
  const { even, odd } = zeros(bytes);
  if (odd > 0.5 && even < 0.1) return { value: 'utf-16le', sure: 0.9, why: 'Every second byte is empty' };
  if (even > 0.5 && odd < 0.1) return { value: 'utf-16be', sure: 0.9, why: 'Every first byte is empty' };
  const text = asUtf8(bytes, isPart);
  if (text !== undefined) {
    // Every other letter takes more bytes than it has places in a text.
    return text.length === bytes.length
      ? { value: 'utf-8', sure: 1, why: 'Only plain letters, which all encodings share' }
      : { value: 'utf-8', sure: 0.98, why: 'All letters with accents are valid UTF-8' };
  }
  return { value: 'windows-1252', sure: 0.8, why: 'Letters with accents are not valid UTF-8' };
}

/** The bytes as text, without a mark at the beginning. */
export function decodeText(bytes: Uint8Array, encoding: Encoding): string {
  return new TextDecoder(encoding).decode(bytes);
}
