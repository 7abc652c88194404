import { fieldAt, objectType, type Catalogue } from '../../kernel/catalogue';
import {
  groupingInWords,
  isMoneyMeasure,
  measureInWords,
  pathInWords,
  periodInWords,
  whereInWords,
  type Wording,
} from '../../kernel/questions';
import { addDays, type Period } from '../../platform/time';
import { ratioParts } from './formula';
import {
  type ComparedPeriod,
  type FigureFormat,
  type ReportDesign,
  type ReportDrawing,
  type ReportFigure,
  type ReportPeriod,
} from './report';
import { besideDesign } from './report-question';

/** A drawing as it is read: `as columns`. */
export const reportDrawingNames: Record<ReportDrawing, string> = {
  columns: 'columns side by side',
  stacked: 'stacked columns',
  bars: 'bars',
  line: 'a line',
  area: 'areas',
  share: 'shares of the whole',
  funnel: 'a funnel',
  heat: 'a heat table',
  scatter: 'points of two figures',
  gauge: 'a gauge',
  figure: 'one figure with its trend',
  none: 'a table alone',
};

const comparedNames: Record<ComparedPeriod, string> = {
  before: 'the period before',
  yearBefore: 'a year before',
};

/** A period of a report as it is read: `this fiscal year`, `12 Mar 2026 to 20 Mar 2026`. */
export function reportPeriodInWords(named: ReportPeriod['in'], day: (day: string) => string): string {
  return 'from' in named ? `${day(named.from)} to ${day(named.to)}` : periodInWords(named);
}

/** Days as they are read, the last one included. */
export const daysInWords = ({ from, to }: Period, day: (day: string) => string): string =>
  `${day(from)} to ${day(addDays(to, -1))}`;

/** What a figure is called: by its own label, or by what it is made of. */
export function figureLabel(figure: ReportFigure, design: ReportDesign, catalogue: Catalogue): string {
  if (figure.label !== undefined) return figure.label;
  const other = (key: string): string => {
    const found = design.figures.find((each) => each.key === key);
    return found && found !== figure ? figureLabel(found, design, catalogue) : key;
  };
  if ('measure' in figure) {
    const { measure, beside } = figure;
    const words = measureInWords(catalogue, beside?.object ?? design.question.object, measure);
    return upperFirst(beside ? `${words} of ${objectType(beside.object).plural.toLowerCase()}` : words);
  }
  if ('formula' in figure && figure.format === 'ratio') {
    const [left, right] = ratioParts(figure.formula) ?? [];
    if (left !== undefined && right !== undefined) return `${other(left)} to ${other(right).toLowerCase()}`;
  }
  if ('formula' in figure) return figure.formula;
  if ('running' in figure) return `${other(figure.running)}, so far`;
  if ('shareOf' in figure) return `${other(figure.shareOf)}, of ${figure.in === 'all' ? 'all' : 'its group'}`;
  if ('past' in figure) return `${other(figure.past)}, ${comparedNames[figure.of]}`;
  return `${other(figure.change)} against ${comparedNames[figure.against]}`;
}

const upperFirst = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** How a figure is written, said or not. */
export function formatOf(figure: ReportFigure, design: ReportDesign, catalogue: Catalogue): FigureFormat {
  if (figure.format) return figure.format;
  const of = (key: string): FigureFormat => {
    const found = design.figures.find((each) => each.key === key);
    return found && found !== figure ? formatOf(found, design, catalogue) : 'number';
  };
  if ('measure' in figure) {
    const { measure, beside } = figure;
    if (measure.as === 'share') return 'percent';
    if (isMoneyMeasure(measure, beside?.object ?? design.question.object, { catalogue })) return 'money';
    return ['average', 'median', 'percentile'].includes(measure.as) ? 'decimal' : 'number';
  }
  if ('formula' in figure) return 'decimal';
  if ('running' in figure) return of(figure.running);
  if ('past' in figure) return of(figure.past);
  if ('change' in figure) return figure.as === 'percent' ? 'percent' : of(figure.change);
  return 'percent';
}

const divisors = { thousands: 1e3, millions: 1e6 };
const signs = { thousands: 'k', millions: 'm' };

/** A figure in thousands or millions, with the sign for them; as it is where it is not rounded. */
export function roundedFigure(
  value: number,
  rounding: ReportDesign['rounding'],
): { value: number; sign: string } {
  return rounding ? { value: value / divisors[rounding], sign: signs[rounding] } : { value, sign: '' };
}

/** How a figure was made, in sentences: what is asked, over which days, and in which currency at which rate. */
export function howMade(
  figure: ReportFigure,
  design: ReportDesign,
  wording: Wording,
  days: { period?: Period; compared: Partial<Record<ComparedPeriod, Period>> },
): string[] {
  const { catalogue, day } = wording;
  const of = 'measure' in figure && figure.beside ? besideDesign(design, figure.beside) : design;
  const { object, where, groups = [] } = of.question;
  const label = (key: string) => {
    const found = design.figures.find((each) => each.key === key);
    return `“${found ? figureLabel(found, design, catalogue) : key}”`;
  };
  const { plural } = objectType(object);
  const asked = [
    `${plural}${where ? ` where ${whereInWords(object, where, wording)}` : ', all of them'}`,
    ...(of.period && days.period
      ? [
          `with “${pathInWords(catalogue, object, of.period.field) ?? ''}” from ${daysInWords(days.period, day)}`,
        ]
      : []),
  ].join(', ');
  const grouped = groups.map((grouping) => groupingInWords(catalogue, object, grouping)).join(', then ');
  const common = [`${asked}.`, ...(grouped ? [`A row for each ${grouped}.`] : [])];
  const compared = (at: ComparedPeriod) => {
    const found = days.compared[at];
    return found ? daysInWords(found, day) : comparedNames[at];
  };
  const made = (): string[] => {
    if ('measure' in figure) {
      const { measure } = figure;
      const field = measure.of === undefined ? undefined : fieldAt(catalogue, object, measure.of);
      const isConverted = field?.type === 'money' && measure.money !== 'own' && measure.as !== 'distinct';
      const on = field?.convertedOn && pathInWords(catalogue, object, field.convertedOn);
      return [
        `${upperFirst(measureInWords(catalogue, object, measure, wording))}.`,
        ...(isConverted
          ? [
              on
                ? `Amounts are converted at the rate of the day in “${on}”, where that is empty at today’s.`
                : 'Amounts are converted at today’s rate.',
            ]
          : []),
        ...(measure.as === 'percentile' || measure.as === 'median'
          ? ['Between two values it lies in proportion.']
          : []),
      ];
    }
    if ('formula' in figure) {
      const named = design.figures.filter(({ key }) => new RegExp(`\\b${key}\\b`).test(figure.formula));
      return [
        `${figure.formula}, where ${named.map(({ key }) => `${key} is ${label(key)}`).join(', ')}.`,
        'Nothing where something is divided by zero.',
      ];
    }
    if ('running' in figure) return [`${label(figure.running)} added up from row to row.`];
    if ('shareOf' in figure)
      return [
        `${label(figure.shareOf)} divided by that of ${figure.in === 'all' ? 'the whole report' : 'the group it is in'}.`,
      ];
    if ('past' in figure) return [`${label(figure.past)} in ${compared(figure.of)}.`];
    const then = `${label(figure.change)} in ${compared(figure.against)}`;
    return figure.as === 'amount'
      ? [`${label(figure.change)} less ${then}.`]
      : [`${label(figure.change)} less ${then}, divided by that.`];
  };
  return [...made(), ...common];
}
