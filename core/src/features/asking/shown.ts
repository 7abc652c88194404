import { fieldAt, isCustomisable, type Catalogue, type ObjectKey } from '../../kernel/catalogue';
import {
  allOf,
  conditionsOf,
  isDated,
  isGroup,
  isRelated,
  type Condition,
  type Question,
} from '../../kernel/questions';
import { plainDesign, type Design } from '../../kernel/views';
import {
  type ReportDesign,
  type ReportDrawing,
  type ReportFigure,
  type ReportPeriod,
} from '../reports/report';
import { periodOfTest } from './compared-words';
import { isOneOf, mainDate } from './vocabulary';
import { type Asked, type AskedDrawing } from './reading';

/** Where what was asked is shown: on a page of records or of figures in groups, or as a report. */
export type ShownAs = { view: Design } | { report: ReportDesign };

/** Whether a figure is asked for by itself, beside that of another time, or of the first groups alone. */
const isReport = ({ question, draw, compared, hasRate }: Asked): boolean =>
  hasRate === true ||
  (draw !== undefined && !isOnPage(draw)) ||
  compared !== undefined ||
  question.first !== undefined ||
  !isCustomisable(question.object) ||
  (question.measures !== undefined && (question.groups ?? []).length === 0);

/** What was asked as it is shown: every part of it has its place there. */
export function shownAsked(asked: Asked, catalogue: Catalogue): ShownAs {
  return isReport(asked) ? { report: asReport(asked, catalogue) } : { view: asView(asked) };
}

function asView({ question, draw }: Asked): Design {
  const { groups = [], measures = [] } = question;
  const plain = plainDesign(question.object);
  // Figures are drawn where nothing else was said: a table would show their records first.
  const drawn =
    draw && isOnPage(draw) ? draw : groups.length > 0 && measures.length > 0 ? 'columns' : 'table';
  return { question: { ...plain.question, ...question }, draw: drawn };
}

const drawings: Record<AskedDrawing, ReportDrawing> = {
  table: 'none',
  columns: 'columns',
  bars: 'bars',
  line: 'line',
  pivot: 'heat',
  area: 'area',
  share: 'share',
  funnel: 'funnel',
};

/** Drawings that a page of figures has as well; others are those of reports. */
const onPages = ['table', 'columns', 'bars', 'line', 'pivot'] as const;
type PageDrawing = (typeof onPages)[number];
const isOnPage = (draw: AskedDrawing): draw is PageDrawing => onPages.some((each) => each === draw);

/** The date that a condition puts into a period, and what else is asked. */
function periodIn(where: Condition | undefined, catalogue: Catalogue, { object }: Question) {
  const parts = conditionsOf(where);
  const periods = parts.flatMap((part) => {
    const isDate =
      !isGroup(part) && !isRelated(part) && isDated(fieldAt(catalogue, object, part.field)?.type ?? 'text');
    const period = isDate ? periodOfTest(part) : undefined;
    return period ? [{ part, period }] : [];
  });
  // What is named goes along with the days that pass.
  const found = periods.find(({ period }) => !('from' in period.in)) ?? periods.at(0);
  return { period: found?.period, rest: allOf(...parts.filter((part) => part !== found?.part)) };
}

/** Rates with what they are made of: deals won of those that closed, leads converted of all. */
const RATES: Partial<Record<ObjectKey, readonly ReportFigure[]>> = {
  deal: [
    { key: 'won', label: 'Won', measure: { as: 'count', where: isOneOf('outcome', 'won') } },
    { key: 'lost', label: 'Lost', measure: { as: 'count', where: isOneOf('outcome', 'lost') } },
    { key: 'rate', label: 'Win rate', formula: 'won / (won + lost)', format: 'percent' },
  ],
  lead: [
    { key: 'leads', label: 'Leads', measure: { as: 'count' } },
    { key: 'converted', label: 'Converted', measure: { as: 'count', where: isOneOf('status', 'converted') } },
    { key: 'rate', label: 'Conversion rate', formula: 'converted / leads', format: 'percent' },
  ],
};

function asReport({ question, draw, compared, hasRate }: Asked, catalogue: Catalogue): ReportDesign {
  const { measures, first, where, groups = [], sort: _sort, ...subject } = question;
  const measured = (measures ?? [{ as: 'count' as const }]).map((measure, index): ReportFigure => ({
    key: String.fromCharCode(97 + index),
    measure,
  }));
  const rate = hasRate ? RATES[question.object] : undefined;
  const figures = rate ? [...rate, ...(measures ? measured : [])] : measured;
  const drawnKey = rate ? 'rate' : 'a';
  const found = periodIn(where, catalogue, question);
  const dated = groups.find(({ field }) =>
    isDated(fieldAt(catalogue, question.object, field)?.type ?? 'text'),
  );
  // Something is compared within some period: the year so far where none was named.
  const usual: ReportPeriod = {
    field: dated?.field ?? mainDate(question.object),
    in: { unit: 'fiscalYear', offset: 0 },
  };
  const period = found.period ?? (compared ? usual : undefined);
  const conditions = found.period ? found.rest : where;
  const beside: ReportFigure[] = compared
    ? [
        { key: 'before', past: drawnKey, of: compared },
        { key: 'change', change: drawnKey, against: compared, as: 'percent' },
      ]
    : [];
  return {
    version: 1,
    question: { ...subject, ...(conditions ? { where: conditions } : {}), groups },
    ...(period ? { period } : {}),
    figures: [...figures, ...beside],
    ...(first
      ? {
          top: first.count,
          order: { figure: figures[first.measure].key, ...(first.descending ? { descending: true } : {}) },
        }
      : {}),
    ...(rate ? { drawn: 'rate' } : {}),
    draw: draw ? drawings[draw] : groups.length === 0 ? 'figure' : 'columns',
  };
}
