import { dark, light, series, seriesColours } from './palette';

type Three = readonly [number, number, number];

const parts = (colour: string): Three =>
  [1, 3, 5].map((at) => parseInt(colour.slice(at, at + 2), 16) / 255) as unknown as Three;
const linear = (part: number) => (part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4);
const lightOf = (colour: string) => parts(colour).map(linear) as unknown as Three;

function hue(colour: string): number {
  const [red, green, blue] = parts(colour);
  const most = Math.max(red, green, blue);
  const spread = most - Math.min(red, green, blue);
  if (spread === 0) return NaN;
  const sector =
    most === red
      ? ((green - blue) / spread + 6) % 6
      : most === green
        ? (blue - red) / spread + 2
        : (red - green) / spread + 4;
  return sector * 60;
}
const apart = (a: number, b: number) => Math.min(Math.abs(a - b), 360 - Math.abs(a - b));

/** WCAG 2.2 relative luminance contrast. */
function contrast(a: string, b: string): number {
  const luminance = (colour: string) => {
    const [red, green, blue] = lightOf(colour);
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue;
  };
  const [more, less] = [luminance(a), luminance(b)].sort((one, other) => other - one);
  return (more + 0.05) / (less + 0.05);
}

/** How eyes see light: as most do, and without one kind of cone (Machado, Oliveira and Fernandes, 2009). */
const eyes: Record<string, readonly Three[]> = {
  usual: [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ],
  protan: [
    [0.152286, 1.052583, -0.204868],
    [0.114503, 0.786281, 0.099216],
    [-0.003882, -0.048116, 1.051998],
  ],
  deutan: [
    [0.367322, 0.860646, -0.227968],
    [0.280085, 0.672501, 0.047413],
    [-0.01182, 0.04294, 0.968881],
  ],
  tritan: [
    [1.255528, -0.076749, -0.178779],
    [-0.078411, 0.930809, 0.147602],
    [0.004733, 0.691367, 0.3039],
  ],
};

const times = (rows: readonly Three[], [a, b, c]: Three): Three =>
  rows.map(([x, y, z]) => Math.min(1, Math.max(0, x * a + y * b + z * c))) as unknown as Three;

/** OKLab (Ottosson, 2020), in which distances are as large as they look. */
function oklab([red, green, blue]: Three): Three {
  const l = Math.cbrt(0.4122214708 * red + 0.5363325363 * green + 0.0514459929 * blue);
  const m = Math.cbrt(0.2119034982 * red + 0.6806995451 * green + 0.1073969566 * blue);
  const s = Math.cbrt(0.0883024619 * red + 0.2817188376 * green + 0.6299787005 * blue);
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ];
}

/** How far apart two colours look to the eyes that tell them apart least. */
const leastApart = (a: string, b: string) =>
  Math.min(
    ...Object.values(eyes).map((eye) => {
      const [one, other] = [oklab(times(eye, lightOf(a))), oklab(times(eye, lightOf(b)))];
      return Math.hypot(...one.map((part, at) => part - other[at]));
    }),
  );

describe.each([
  ['light', light],
  ['dark', dark],
] as const)('the colours of series on the %s ground', (mode, palette) => {
  const colours = series[mode];

  it('share no hue with attention, overdue or lost', () => {
    for (const colour of colours)
      for (const meaning of [palette.gorse, palette.thrift])
        expect([colour, apart(hue(colour), hue(meaning)) > 40]).toEqual([colour, true]);
  });

  it('are told apart by every kind of eye', () => {
    const pairs = colours.flatMap((a, at) => colours.slice(at + 1).map((b) => [a, b] as const));
    for (const [a, b] of pairs) expect([a, b, leastApart(a, b) > 0.07]).toEqual([a, b, true]);
    expect(pairs).toHaveLength(45);
  });

  it('stand out from the sheet', () => {
    for (const colour of colours) expect(contrast(colour, palette.sheet)).toBeGreaterThan(1.85);
  });

  it('leave a series that stands alone in the colour of the rest', () => {
    expect(seriesColours(mode, 1)).toEqual([palette.water]);
    expect(seriesColours(mode, 2)).toBe(colours);
  });
});
