import { Problem } from './problem';

/** How deep and how large a JSON text may be: more than anything here needs, far less than what makes checking slow. */
const LIMITS = { depth: 64, values: 60_000 };

const QUOTE = 0x22;
const BACKSLASH = 0x5c;
const COMMA = 0x2c;
const OPENING = new Set([0x5b, 0x7b]);
const CLOSING = new Set([0x5d, 0x7d]);

const tooMuch = (what: string) => new Problem('too-large', `What was sent ${what}. Nothing was written.`);

/**
 * Makes sure that a JSON text is neither too deep nor too large, by one look at its bytes: before it is parsed, and
 * before anything is checked value by value.
 * @throws Problem `too-large`.
 */
export function checkJsonShape(bytes: Uint8Array): void {
  let depth = 0;
  let values = 1;
  let isText = false;
  for (let at = 0; at < bytes.length; at += 1) {
    const byte = bytes[at];
    if (isText) {
      if (byte === BACKSLASH) at += 1;
      else if (byte === QUOTE) isText = false;
    } else if (byte === QUOTE) isText = true;
    else if (byte === COMMA) values += 1;
    else if (OPENING.has(byte)) {
      depth += 1;
      values += 1;
      if (depth > LIMITS.depth) throw tooMuch(`is nested more than ${LIMITS.depth} levels deep`);
    } else if (CLOSING.has(byte)) depth -= 1;
    if (values > LIMITS.values) throw tooMuch(`holds more than ${LIMITS.values.toLocaleString('en')} values`);
  }
}

/**
 * A text that holds JSON, parsed within the same limits.
 * @throws SyntaxError when it is not JSON, Problem `too-large` beyond the limits.
 */
export function parseJson(text: string): unknown {
  checkJsonShape(Buffer.from(text));
  return JSON.parse(text);
}
