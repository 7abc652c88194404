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

/**
 * Series of a chart, in order. Neighbours differ in lightness as well as hue, so that they stay apart for readers
 * who see few hues.
 */
export const series = {
  light: [
    '#0F5C63',
    '#D99A00',
    '#8DB9B6',
    '#B4476B',
    '#33474D',
    '#B5C77E',
    '#6C8CA8',
    '#E3B9A1',
    '#4F6B26',
    '#9B8FB5',
  ],
  dark: [
    '#63B3B8',
    '#E8B23A',
    '#3F7175',
    '#E58BA8',
    '#B8C7CB',
    '#7E9A4C',
    '#8FB0CC',
    '#A9745A',
    '#C6DDA0',
    '#7B6FA0',
  ],
} as const;
