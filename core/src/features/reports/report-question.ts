import {
  allOf,
  periodMeant,
  subjectOf,
  type Condition,
  type Grouping,
  type Question,
  type QuestionContext,
} from '../../kernel/questions';
import { addDays, type Period } from '../../platform/time';
import { type OtherRecords, type ReportDesign, type ReportPeriod } from './report';

/** The days that a report's period means. */
export function daysOf(period: ReportPeriod, context: Pick<QuestionContext, 'today' | 'calendar'>): Period {
  return 'from' in period.in
    ? { from: period.in.from, to: addDays(period.in.to, 1) }
    : periodMeant(period.in, context);
}

/** The condition that a date lies within some days. */
export const isWithinDays = (field: string, { from, to }: Period): Condition => ({
  field,
  is: 'between',
  value: [from, addDays(to, -1)],
});

/** The condition that records lie within a report's period: said as the period is, where it is one by name. */
function isWithin(
  period: ReportPeriod,
  context: Pick<QuestionContext, 'today' | 'calendar'>,
  days?: Period,
): Condition {
  const { field, in: named } = period;
  if (days) return isWithinDays(field, days);
  return 'from' in named ? isWithinDays(field, daysOf(period, context)) : { field, is: 'in', value: named };
}

/**
 * The question of a report with its period: what every figure of it is about.
 * @param days others than those of its period, which it is compared with.
 */
export function askedBy(
  { question, period }: Pick<ReportDesign, 'question' | 'period'>,
  context: Pick<QuestionContext, 'today' | 'calendar'>,
  days?: Period,
): Question {
  const both = allOf(question.where, period && isWithin(period, context, days));
  return { ...subjectOf(question), ...(both ? { where: both } : {}) };
}

/** Stands for a field that other records are not told apart by. */
export const ANY_GROUP = '*';

/** A report of other records beside those of a report: by the same groups as far as fields of theirs stand for them. */
export function besideDesign(
  design: ReportDesign,
  { object, where, period, match }: OtherRecords,
): ReportDesign {
  const { groups = [] } = design.question;
  const like = (grouping: Grouping): Grouping | undefined => {
    const field = match[grouping.field];
    return field === undefined ? undefined : { ...grouping, field };
  };
  const told = groups.map(like);
  const unlike = told.indexOf(undefined);
  const isApart = ({ field }: Grouping) => field !== ANY_GROUP;
  const split = design.split && like(design.split);
  const { split: _split, period: _period, ...rest } = design;
  return {
    ...rest,
    question: {
      version: 1,
      object,
      ...(where ? { where } : {}),
      groups: told
        .slice(0, unlike < 0 ? undefined : unlike)
        .filter((grouping) => grouping !== undefined)
        .filter(isApart),
    },
    ...(split && isApart(split) ? { split } : {}),
    ...(period !== undefined && design.period ? { period: { ...design.period, field: period } } : {}),
  };
}

/** The question for all records behind a measured figure of a report, whatever its groups. */
export function allBehind(
  design: ReportDesign,
  key: string,
  context: Pick<QuestionContext, 'today' | 'calendar'>,
): Question {
  const figure = design.figures.find((each) => each.key === key);
  const { measure, beside } = figure && 'measure' in figure ? figure : {};
  const asked = askedBy(beside ? besideDesign(design, beside) : design, context);
  const both = allOf(asked.where, measure?.where);
  return { ...asked, ...(both ? { where: both } : {}) };
}
