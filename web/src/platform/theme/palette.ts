/** The colours of the cliff: chalk and slate, deep water and shallows, gorse, thrift and lichen. */
export interface Palette {
  page: string;
  sheet: string;
  line: string;
  ink: string;
  inkSecond: string;
  water: string;
  waterInk: string;
  shallows: string;
  gorse: string;
  gorseInk: string;
  thrift: string;
  lichen: string;
  /** Ground of a chosen row or entry. */
  chosen: string;
}

export const light: Palette = {
  page: '#F6F3EC',
  sheet: '#FFFFFF',
  line: '#E3DDCF',
  ink: '#1E2B2F',
  inkSecond: '#56666B',
  water: '#0F5C63',
  waterInk: '#FFFFFF',
  shallows: '#8DB9B6',
  gorse: '#D99A00',
  gorseInk: '#7A5600',
  thrift: '#B4476B',
  lichen: '#4F6B26',
  chosen: '#E4EEEC',
};

export const dark: Palette = {
  page: '#172124',
  sheet: '#1E2B2F',
  line: '#33454A',
  ink: '#F1EDE3',
  inkSecond: '#A9B7BA',
  water: '#63B3B8',
  waterInk: '#10201F',
  shallows: '#3F7175',
  gorse: '#E8B23A',
  gorseInk: '#F0C45E',
  thrift: '#E58BA8',
  lichen: '#A9C878',
  chosen: '#24393D',
};

/** The colours of a palette as custom properties, by their names. */
export const variablesOf = (palette: Palette): Record<string, string> =>
  Object.fromEntries(
    Object.entries(palette).map(([name, colour]) => [
      `--${name.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`)}`,
      String(colour),
    ]),
  );

/**
 * Series of a chart, in order: whose or what, never how it stands. They share no hue with what needs attention, is
 * overdue or lost, and any two are told apart by readers who see few hues; neighbours differ in lightness as well.
 */
export const series = {
  light: [
    '#1E2649',
    '#A8BFD2',
    '#946CB7',
    '#3C9261',
    '#4F5F72',
    '#52C074',
    '#5F2B7B',
    '#8D9AAF',
    '#244C3B',
    '#843DAE',
  ],
  dark: [
    '#D5E3EA',
    '#5A6B91',
    '#A061C7',
    '#8ED6B4',
    '#A9B0DB',
    '#53A77B',
    '#8743BB',
    '#758494',
    '#5AC57F',
    '#9694C6',
  ],
} as const;

/** The colours of so many series. One alone is nobody's, and stands in the colour of everything else. */
export const seriesColours = (mode: keyof typeof series, count: number): readonly string[] =>
  count < 2 ? [{ light, dark }[mode].water] : series[mode];
