import fc from 'fast-check';
import { brokenPromise, fileName, isShown, mediaTypeOf } from '.';

const bytes = (...all: (number | string)[]) =>
  Uint8Array.from(
    all.flatMap((each) =>
      typeof each === 'number' ? each : [...each].map((letter) => letter.charCodeAt(0)),
    ),
  );

describe('what a file is', () => {
  it.each([
    ['image/png', bytes(0x89, 'PNG\r\n', 0x1a, 0x0a, 'x')],
    ['image/jpeg', bytes(0xff, 0xd8, 0xff, 0xe0)],
    ['image/gif', bytes('GIF89a')],
    ['image/webp', bytes('RIFF', 1, 2, 3, 4, 'WEBP')],
    ['application/pdf', bytes('%PDF-1.7')],
    ['application/octet-stream', bytes('<html><script>')],
    ['audio/wav', bytes('RIFF', 1, 2, 3, 4, 'WAVE')],
    ['application/octet-stream', bytes('RIFF', 1, 2, 3, 4, 'AVI ')],
    ['application/octet-stream', bytes()],
  ])('is told from its first bytes: %s', (type, head) => {
    expect(mediaTypeOf(head)).toBe(type);
    expect(isShown(type)).toBe(type !== 'application/octet-stream');
  });

  it('is held to what its name promises', () => {
    expect(brokenPromise('quay.PNG', 'application/octet-stream')).toBe(
      'quay.PNG does not hold a PNG picture',
    );
    expect(brokenPromise('quay.png', 'image/png')).toBeUndefined();
    expect(brokenPromise('quay.xlsx', 'application/octet-stream')).toBeUndefined();
    expect(brokenPromise('png', 'image/png')).toBeUndefined();
  });
});

describe('the name of a file', () => {
  it.each([
    ['../../x', 'x'],
    ['C:\\Windows\\offer.pdf', 'offer.pdf'],
    ['.htaccess', 'htaccess'],
    ['a\u0000b?.txt', 'ab.txt'],
    ['evil\u202Egnp.exe', 'evilgnp.exe'],
    ['Größe.pdf', 'Größe.pdf'],
    ['..', undefined],
    ['///', undefined],
  ])('%j is kept as %j', (given, kept) => {
    expect(fileName(given)).toBe(kept);
  });

  it('never holds a path, is never too long, and stays as it is once it is clean', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 300 }), (given) => {
        const name = fileName(given);
        if (name === undefined) return;
        expect(name).not.toMatch(/[\\/]|^\./);
        expect(name.length).toBeLessThanOrEqual(120);
      }),
    );
    expect(fileName(`${'x'.repeat(300)}.pdf`)).toMatch(/^x{116}\.pdf$/);
  });
});
