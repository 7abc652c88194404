import { objectType, type FieldValue, type ObjectKey } from '../../kernel/catalogue';
import {
  allOf,
  keyCondition,
  onItsDay,
  type Grouping,
  type Question,
  type QuestionContext,
} from '../../kernel/questions';
import { addDays, periodOf } from '../../platform/time';
import { madeFrom } from './made-of';
import { daysAt, daysCompared, periodsWithin, type At } from './periods-within';
import { type MeasuredFigure, type OtherRecords, type ReportDesign, type ReportFigure } from './report';
import { besideKeys } from './other-records';
import { askedBy, besideDesign, daysOf } from './report-question';

/** Where a figure of a report stands. */
export interface RowPlace {
  /** The keys of the row. */
  keys: readonly FieldValue[];
  /** The key it is split by, where one cell is meant. */
  split?: FieldValue;
  /** The figure meant; without one all records of the row. */
  figure?: ReportFigure;
  /** The keys of the first groups that are shown, where the row is *the rest*. */
  first?: readonly FieldValue[];
  /** Of a running total, the innermost keys of the row and of those before it. */
  upTo?: readonly FieldValue[];
}

/** The measure that a figure comes from in the end, with the period it is of; none where several are put together. */
export function measuredBy(
  figure: ReportFigure | undefined,
  design: ReportDesign,
): Partial<MeasuredFigure> & { at: At } {
  if (!figure) return { at: 'now' };
  if ('measure' in figure) return { measure: figure.measure, beside: figure.beside, at: 'now' };
  const source = design.figures.find(({ key }) => key === madeFrom(figure));
  return { ...measuredBy(source, design), at: 'past' in figure ? figure.of : 'now' };
}

/** The first day of the period of another time that stands beside one of this. */
export function inOtherPeriod(
  { period }: ReportDesign,
  { field, by }: Grouping,
  key: FieldValue,
  at: At,
  context: PlaceContext,
): FieldValue {
  if (at === 'now' || period?.field !== field) return key;
  const ours = periodsWithin(daysOf(period, context), by, context);
  return periodsWithin(daysCompared(period, at, context), by, context).at(ours.indexOf(String(key))) ?? key;
}

type PlaceContext = Pick<QuestionContext, 'today' | 'calendar' | 'catalogue'>;

/** The question for exactly the records behind a place of a report. */
export function recordsBehind(report: ReportDesign, now: PlaceContext, place: RowPlace): Question {
  const context = onItsDay(report.question, now);
  const { figure, first, upTo } = place;
  const { measure, beside, at } = measuredBy(figure, report);
  const design = beside ? besideDesign(report, beside) : report;
  const { keys, split } = (beside && besideKeys(report, beside, place.keys, place.split)) ?? place;
  const { object, groups = [], labels, sort } = design.question;
  const columns = beside ? ownColumns(object) : design.question.columns;
  const { catalogue, calendar } = context;
  const held = (grouping: Grouping, key: FieldValue) =>
    keyCondition(catalogue, object, grouping, inOtherPeriod(design, grouping, key, at, context), calendar);
  const anyKey = (grouping: Grouping, some: readonly FieldValue[]) =>
    some.map((key) => held(grouping, key)).filter((each) => each !== undefined);
  const asked = askedBy(design, context, daysAt(design, at, context));
  const last = keys.length - 1;
  const where = allOf(
    asked.where,
    ...keys.map((key, index) =>
      upTo && index === last
        ? { join: 'any' as const, of: anyKey(groups[index], upTo) }
        : held(groups[index], key),
    ),
    design.split && split !== undefined ? held(design.split, split) : undefined,
    first && { join: 'none', of: anyKey(groups[0], first) },
    measure?.where,
  );
  return {
    ...asked,
    ...(where ? { where } : {}),
    ...(columns ? { columns } : {}),
    ...(labels ? { labels } : {}),
    ...(sort ? { sort } : {}),
  };
}

/**
 * A report further down: of the records of some of its groups alone, by the groups within them.
 * @param keys of the outermost groups, the first first.
 */
export function furtherDown(
  design: ReportDesign,
  keys: readonly FieldValue[],
  context: PlaceContext,
): ReportDesign {
  const { catalogue, calendar } = context;
  const { groups = [], where, object } = design.question;
  let { period } = design;
  const held = keys.map((key, index) => {
    const grouping = groups.at(index);
    if (!grouping) return undefined;
    // The period is narrowed, so that another it is compared with is narrowed as well.
    if (period?.field === grouping.field && key !== null) {
      const { from, to } = periodOf(grouping.by ?? 'day', String(key), calendar);
      period = { ...period, in: { from, to: addDays(to, -1) } };
      return undefined;
    }
    return keyCondition(catalogue, object, grouping, key, calendar);
  });
  const both = allOf(where, ...held);
  return {
    ...design,
    question: { ...design.question, ...(both ? { where: both } : {}), groups: groups.slice(keys.length) },
    figures: design.figures.map((figure) =>
      'measure' in figure && figure.beside
        ? { ...figure, beside: besideFurtherDown(design, figure.beside, keys, context) }
        : figure,
    ),
    ...(period ? { period } : {}),
  };
}

/** The first columns of records that are not worked on, and have no table of their own that says which they are. */
const ownColumns = (object: ObjectKey): string[] | undefined =>
  objectType(object).category === 'work' ? undefined : Object.keys(objectType(object).fields).slice(0, 5);

/** Other records beside a report, of the same groups alone. */
function besideFurtherDown(
  design: ReportDesign,
  beside: OtherRecords,
  keys: readonly FieldValue[],
  { catalogue, calendar }: PlaceContext,
): OtherRecords {
  const { groups = [] } = besideDesign(design, beside).question;
  const place = besideKeys(design, beside, keys, undefined);
  if (!place) return { ...beside, isUntold: true };
  const held = place.keys.map((key, index) =>
    // The period is narrowed for them as well.
    groups[index].field === beside.period && key !== null
      ? undefined
      : keyCondition(catalogue, beside.object, groups[index], key, calendar),
  );
  const where = allOf(beside.where, ...held);
  return { ...beside, ...(where ? { where } : {}) };
}
