/** The largest file that can be put on a record. */
export const LARGEST_FILE = 25 * 1024 * 1024;

const LONGEST_NAME = 120;

/** A kind of file that is shown in the browser, known by its first bytes; `at` is where they begin. */
interface Shown {
  type: string;
  name: string;
  endings: readonly string[];
  signs: readonly { at: number; bytes: readonly number[] }[];
}

const ascii = (text: string) => [...text].map((letter) => letter.charCodeAt(0));

const shownTypes: readonly Shown[] = [
  {
    type: 'image/png',
    name: 'PNG picture',
    endings: ['png'],
    signs: [{ at: 0, bytes: [0x89, ...ascii('PNG\r\n'), 0x1a, 0x0a] }],
  },
  {
    type: 'image/jpeg',
    name: 'JPEG picture',
    endings: ['jpg', 'jpeg'],
    signs: [{ at: 0, bytes: [0xff, 0xd8, 0xff] }],
  },
  { type: 'image/gif', name: 'GIF picture', endings: ['gif'], signs: [{ at: 0, bytes: ascii('GIF8') }] },
  {
    type: 'image/webp',
    name: 'WebP picture',
    endings: ['webp'],
    signs: [
      { at: 0, bytes: ascii('RIFF') },
      { at: 8, bytes: ascii('WEBP') },
    ],
  },
  {
    type: 'audio/wav',
    name: 'WAV sound',
    endings: ['wav'],
    signs: [
      { at: 0, bytes: ascii('RIFF') },
      { at: 8, bytes: ascii('WAVE') },
    ],
  },
  { type: 'application/pdf', name: 'PDF', endings: ['pdf'], signs: [{ at: 0, bytes: ascii('%PDF-') }] },
];

/** Bytes from the beginning of a file by which its type is told. */
export const HEAD_BYTES = 16;

/** What any other file is handed out as: something to keep, not to show. */
export const UNSHOWN = 'application/octet-stream';

/** The media type that the first bytes of a file say; never what its name says. */
export function mediaTypeOf(head: Uint8Array): string {
  const found = shownTypes.find(({ signs }) =>
    signs.every(({ at, bytes }) => bytes.every((byte, index) => head[at + index] === byte)),
  );
  return found?.type ?? UNSHOWN;
}

/** Whether files of a type are shown in the browser: pictures in place, a PDF in a page of its own. */
export const isShown = (type: string) => type !== UNSHOWN;

/**
 * The name a file is kept under: its own without any path, and without what no system takes in a name.
 * @returns undefined when nothing is left of it.
 */
export function fileName(given: string): string | undefined {
  const last = given.split(/[\\/]/).at(-1) ?? '';
  const plain = last
    .normalize('NFC')
    // eslint-disable-next-line no-control-regex
    .replace(/[\u0000-\u001f\u007f<>:"|?*\u202a-\u202e\u2066-\u2069]/g, '')
    .replace(/^[.\s]+|[.\s]+$/g, '');
  if (plain.length <= LONGEST_NAME) return plain || undefined;
  const ending = /\.[A-Za-z0-9]{1,10}$/.exec(plain)?.[0] ?? '';
  return plain.slice(0, LONGEST_NAME - ending.length) + ending;
}

/** What is wrong with a file whose name promises what its content is not: “photo.png does not hold a PNG picture”. */
export function brokenPromise(name: string, type: string): string | undefined {
  const ending = name.split('.').at(-1)?.toLowerCase() ?? '';
  const promised = shownTypes.find(({ endings }) => endings.includes(ending));
  return promised && promised.type !== type ? `${name} does not hold a ${promised.name}` : undefined;
}
