import { type Catalogue } from '../../kernel/catalogue';
import { figureLabel, formatOf } from './in-words';
import { ratioParts } from './formula';
import { type ReportDesign, type ReportRow } from './report';

/** The largest number of a ratio that is told by small ones. */
const MOST = 10;
const NAMES = ['none', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten'];

export interface Ratio {
  of: number;
  to: number;
  isExact: boolean;
}

/** A ratio by the nearest small numbers: 1.52 is about three to two. Of equally near ones the smaller are taken. */
export function smallRatio(value: number): Ratio {
  if (value === 0) return { of: 0, to: 1, isExact: true };
  if (value > MOST) return { of: Math.round(value), to: 1, isExact: Number.isInteger(value) };
  if (value < 1 / MOST) {
    const to = Math.round(1 / value);
    return { of: 1, to, isExact: value === 1 / to };
  }
  let best: Ratio = { of: Math.max(1, Math.round(value)), to: 1, isExact: false };
  for (let to = 1; to <= MOST; to += 1) {
    const of = Math.round(value * to);
    if (of >= 1 && of <= MOST && Math.abs(of / to - value) < Math.abs(best.of / best.to - value) - 1e-12)
      best = { of, to, isExact: false };
  }
  return { ...best, isExact: best.of / best.to === value };
}

const named = (number: number) => NAMES.at(number) ?? String(number);

/** A ratio as it stands in a table: `2 to 1`, `about 3 to 2`. */
export function ratioText(value: number): string {
  const { of, to, isExact } = smallRatio(value);
  return `${isExact ? '' : 'about '}${of} to ${to}`;
}

/**
 * The ratios of a report as a sentence about all its records: “Two won for every one lost; by value about three for two.”
 * @returns undefined where no figure is written as a ratio, or none of them is anything.
 */
export function ratiosInWords(
  design: ReportDesign,
  { figures }: Pick<ReportRow, 'figures'>,
  catalogue: Catalogue,
): string | undefined {
  const labelOf = (key: string) => {
    const figure = design.figures.find((each) => each.key === key);
    return figure ? figureLabel(figure, design, catalogue).toLowerCase() : key;
  };
  const said = design.figures.flatMap((figure, index) => {
    const value = figures[index];
    if (!('formula' in figure) || formatOf(figure, design, catalogue) !== 'ratio' || value === null)
      return [];
    const parts = ratioParts(figure.formula);
    if (!parts) return [];
    const { of, to, isExact } = smallRatio(value);
    const [about, first, second] = [isExact ? '' : 'about ', named(of), named(to)];
    return figure.label === undefined
      ? [`${about}${first} ${labelOf(parts[0])} for every ${second} ${labelOf(parts[1])}`]
      : [`${figure.label.toLowerCase()} ${about}${first} for every ${second}`];
  });
  if (said.length === 0) return undefined;
  const all = said.join('; ');
  return `${all.charAt(0).toUpperCase()}${all.slice(1)}.`;
}
