import {
  formatOf,
  ratioText,
  roundedFigure,
  type Catalogue,
  type ReportDesign,
  type ReportFigure,
  type ReportRow,
} from '@zawn/core';
import { money, number, percent } from '../../platform/frame/format';

/** A figure of a report as it is read, rounded as the report wants it; a dash where there is none. */
export function reportFigureText(
  value: number | null,
  figure: ReportFigure,
  design: ReportDesign,
  catalogue: Catalogue,
  currency: string,
): string {
  if (value === null) return '–';
  const format = formatOf(figure, design, catalogue);
  if (format === 'percent') return percent(value);
  if (format === 'ratio') return ratioText(value);
  if (format === 'days') return number(Math.round(value * 10) / 10);
  if (format === 'decimal') return number(Math.round(value * 100) / 100);
  const { value: inUnits, sign } = roundedFigure(value, design.rounding);
  // Whole minor units again, so that the currency's own digits apply.
  if (format === 'money') return `${money(Math.round(inUnits), currency)}${sign}`;
  return `${number(Math.round(inUnits * 100) / 100)}${sign}`;
}

/** The figure that is drawn: the one named, or the first. */
export const drawnFigure = ({ figures, drawn }: ReportDesign): ReportFigure =>
  figures.find(({ key }) => key === drawn) ?? figures[0];

/** The figures drawn side by side: the drawn one, and the same in other periods. */
export function figuresTogether(design: ReportDesign): ReportFigure[] {
  const drawn = drawnFigure(design);
  return [drawn, ...design.figures.filter((each) => 'past' in each && each.past === drawn.key)];
}

/** A key for a new figure: a letter that no other has. */
export function freeKey(figures: readonly ReportFigure[]): string {
  const taken = new Set(figures.map(({ key }) => key));
  const letters = [...'abcdefghijklmnopqrstuvwxyz'];
  return letters.find((letter) => !taken.has(letter)) ?? `f${figures.length + 1}`;
}

/** The outermost groups, and what is beyond the first of them. */
export const firstRows = (rows: readonly ReportRow[]): ReportRow[] =>
  rows.filter(({ keys, rest }) => keys.length === 1 || rest !== undefined);
