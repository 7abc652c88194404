import { decodeText } from './decode-text';
import { ENCODINGS } from './table';

/** The parameters of vCard 2.1 that stand without a name: `TEL;WORK;VOICE` instead of `TEL;TYPE=WORK,VOICE`. */
const TYPES =
  /^(pref|home|work|cell|voice|fax|msg|pager|bbs|modem|car|isdn|video|dom|intl|postal|parcel|internet)$/i;

/** The bytes that quoted-printable text stands for (RFC 2045, 6.7). */
function unquoted(text: string): Uint8Array {
  const parts = text.match(/=[\da-f]{2}|=|[^=]+/gi) ?? [];
  const encoder = new TextEncoder();
  return Uint8Array.from(
    parts.flatMap((part) =>
      part.length === 3 && part.startsWith('=')
        ? Number.parseInt(part.slice(1), 16)
        : [...encoder.encode(part)],
    ),
  );
}

/** The encoding a card names, if it is one that can be read; UTF-8 otherwise. */
function encodingOf(named: string | undefined) {
  const known = ENCODINGS.find(([key]) => key === named?.toLowerCase());
  if (known) return known[0];
  return /^iso-8859-1$|^latin-?1$|^us-ascii$/i.test(named ?? '')
    ? ('windows-1252' as const)
    : ('utf-8' as const);
}

/** One line of a card of version 2.1 as version 3 writes it. */
function lineInThree(line: string): string {
  const colon = line.indexOf(':');
  if (colon < 0) return line;
  const [name, ...parameters] = line.slice(0, colon).split(';');
  let value = line.slice(colon + 1);
  const named = new Map<string, string>();
  const types: string[] = [];
  for (const parameter of parameters) {
    const [key, said] = parameter.split('=', 2);
    if (said !== undefined && key.toLowerCase() === 'type') types.push(said);
    else if (said !== undefined) named.set(key.toLowerCase(), said);
    else if (/^(quoted-printable|base64)$/i.test(key)) named.set('encoding', key);
    else if (TYPES.test(key)) types.push(key);
  }
  if (/^quoted-printable$/i.test(named.get('encoding') ?? ''))
    value = decodeText(unquoted(value), encodingOf(named.get('charset')));
  // A comma is a comma there, and a line ends where it ends.
  const escaped = value.replace(/(?<!\\),/g, '\\,').replace(/\r\n?|\n/g, '\\n');
  const isList = /(^|\.)(categories|version)$/i.test(name);
  return `${name}${types.length > 0 ? `;TYPE=${types.join(',')}` : ''}:${isList ? value : escaped}`;
}

/** A card of version 2.1 as version 3 writes it; any other as it is. */
export function inThree(card: string): string {
  if (!/^VERSION:2\.1[ \t]*\r?$/im.test(card)) return card;
  const lines = card
    // Quoted-printable text goes on where a line ends with =, any other where the next begins with a space.
    .replace(/(ENCODING=QUOTED-PRINTABLE|;QUOTED-PRINTABLE)((?:[^\r\n]*=\r?\n)*[^\r\n]*)/gi, (whole) =>
      whole.replace(/=\r?\n/g, ''),
    )
    .replace(/\r?\n[ \t]/g, ' ')
    .split(/\r?\n/)
    .filter((line) => line !== '' && !/^(PHOTO|LOGO|SOUND|KEY)[;:]/i.test(line));
  return lines.map((line) => (/^VERSION:/i.test(line) ? 'VERSION:3.0' : lineInThree(line))).join('\r\n');
}
