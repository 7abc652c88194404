import { fieldAt, isSubject, type Catalogue, type ObjectKey } from '../../kernel/catalogue';
import { allOf, type Condition } from '../../kernel/questions';
import { teamsBelow } from '../../kernel/organisation/teams';
import { type ReportDesign, type ReportFigure } from '../reports/report';
import { choosings, type Choosing, type DashboardChoice } from './dashboard';

/** What tells which records a choice is about. */
export interface ChoiceContext {
  catalogue: Catalogue;
  teams: readonly { id: number; parent: number | null }[];
}

/** What was narrowed to a choice, and which parts of the choice it does not know. */
export interface Narrowed<T> {
  asked: T;
  ignored: readonly Choosing[];
}

/** Whose a record is: its own owner, or that of the deal it is part of. */
const OWNERS = ['owner', 'deal.owner'];
const PIPELINES = ['pipeline', 'deal.pipeline'];

const pathTo = (
  { catalogue }: ChoiceContext,
  object: ObjectKey,
  paths: readonly string[],
  to: ObjectKey,
): string | undefined =>
  // What deals came of is no part of one: a lead is none of its deal's.
  paths
    .filter((path) => !path.includes('.') || !isSubject(object))
    .find((path) => fieldAt(catalogue, object, path)?.to === to);

/** The condition that a part of a choice puts on records; undefined where they do not know it. */
function conditionOf(
  object: ObjectKey,
  part: Exclude<Choosing, 'period'>,
  choice: DashboardChoice,
  context: ChoiceContext,
): Condition | undefined {
  const { team, person, pipeline } = choice;
  if (part === 'pipeline') {
    const field = pathTo(context, object, PIPELINES, 'pipeline');
    return field ? { field, is: 'anyOf', value: [pipeline as number] } : undefined;
  }
  const field = pathTo(context, object, OWNERS, 'person');
  if (!field) return undefined;
  return part === 'person'
    ? { field, is: 'anyOf', value: [person as number | string] }
    : { field: `${field}.team`, is: 'anyOf', value: [...teamsBelow([team as number], context.teams)] };
}

const chosen = (choice: DashboardChoice) => choosings.filter((part) => choice[part] !== undefined);

/** The condition that a choice puts on records of an object, its period aside. */
export function narrowedTo(
  object: ObjectKey,
  choice: DashboardChoice,
  context: ChoiceContext,
): Narrowed<Condition | undefined> {
  const ignored: Choosing[] = [];
  const conditions = chosen(choice).map((part) => {
    if (part === 'period') return undefined;
    const condition = conditionOf(object, part, choice, context);
    if (!condition) ignored.push(part);
    return condition;
  });
  return { asked: allOf(...conditions), ignored };
}

/**
 * A report narrowed to what was chosen: its period is that which was chosen, and its records, those beside them too, are
 * the person's, the team's and the pipeline's. A report without a period is of any time still.
 */
export function narrowedReport(
  design: ReportDesign,
  choice: DashboardChoice,
  context: ChoiceContext,
): Narrowed<ReportDesign> {
  const own = narrowedTo(design.question.object, choice, context);
  const ignored = new Set(own.ignored);
  const figures = design.figures.map((figure): ReportFigure => {
    if (!('measure' in figure) || !figure.beside) return figure;
    const theirs = narrowedTo(figure.beside.object, choice, context);
    for (const part of theirs.ignored) ignored.add(part);
    const where = allOf(figure.beside.where, theirs.asked);
    return where ? { ...figure, beside: { ...figure.beside, where } } : figure;
  });
  if (choice.period && !design.period) ignored.add('period');
  const where = allOf(design.question.where, own.asked);
  return {
    asked: {
      ...design,
      question: { ...design.question, ...(where ? { where } : {}) },
      figures,
      ...(choice.period && design.period ? { period: { ...design.period, in: choice.period } } : {}),
    },
    ignored: choosings.filter((part) => ignored.has(part)),
  };
}
