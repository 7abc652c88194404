import { figuresNamed, isFormulaFault, readFormula } from './formula';
import { type ReportFigure } from './report';

/** The figure that a figure is made from, where that is one alone. */
export const madeFrom = (figure: ReportFigure): string | undefined => {
  if ('running' in figure) return figure.running;
  if ('shareOf' in figure) return figure.shareOf;
  if ('past' in figure) return figure.past;
  return 'change' in figure ? figure.change : undefined;
};

/** The figures that a figure is made of, directly. */
export function figuresBehind(figure: ReportFigure): string[] {
  if ('formula' in figure) {
    const read = readFormula(figure.formula);
    return isFormulaFault(read) ? [] : figuresNamed(read);
  }
  const from = madeFrom(figure);
  return from === undefined ? [] : [from];
}
