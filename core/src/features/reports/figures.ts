import { type Condition, type Measure } from '../../kernel/questions';
import { type FigureFormat, type MeasuredFigure, type ReportFigure } from './report';

/** What figures of reports that come with Zawn are written down by. */
type Measured = ReportFigure & MeasuredFigure;

export const measured = (key: string, measure: Measure, label?: string, format?: FigureFormat): Measured => ({
  key,
  measure,
  ...(label ? { label } : {}),
  ...(format ? { format } : {}),
});

export const count = (key: string, label: string, where?: Condition): Measured =>
  measured(key, { as: 'count', ...(where ? { where } : {}) }, label);

/** The value of deals. */
export const valueOf = (key: string, label: string, where?: Condition): Measured =>
  measured(key, { as: 'sum', of: 'value', ...(where ? { where } : {}) }, label);

export const formula = (key: string, text: string, label: string, format: FigureFormat): ReportFigure => ({
  key,
  formula: text,
  label,
  format,
});
