import { fieldAt, labelOfPath, objectType, relationOf, stepsOf, type ObjectKey } from '../catalogue';
import { isToldInPast, subjectOf } from './as-of';
import { type QuestionContext } from './context';
import {
  isGroup,
  isRelated,
  type Condition,
  type Measure,
  type Question,
  pathsOfTest,
  type Test,
} from './question';

/** Which records answer follows from `where` alone; the other places say how they are shown. */
export type LeftOutAt = 'where' | 'columns' | 'sort' | 'groups' | 'measures';

/** A part of a question that cannot be asked any more, and why. */
export interface LeftOut {
  /** The path, relation or list meant; of what lies before the log its first day. */
  part: string;
  reason: 'unknownField' | 'unknownList' | 'notInPast' | 'beforeLog';
  /** What the part is called, where it is there but its past is not told. */
  label?: string;
  at: LeftOutAt;
}

/** A part that was left out, as a sentence. */
export function leftOutInWords({ part, reason, label = part }: LeftOut): string {
  if (reason === 'notInPast') return `How “${label}” stood then is not known: no log is kept of it`;
  if (reason === 'beforeLog') return `Nothing is on file from before ${part}`;
  return reason === 'unknownList'
    ? `List ${part} is gone, or not shared with you`
    : `There is no field “${part}” any more`;
}

export interface Runnable {
  question: Question;
  leftOut: LeftOut[];
}

/**
 * A question without the parts that cannot be asked: fields the catalogue does not know (retired, or misspelt), lists
 * that are gone or not shared with the person asking, and of the past what it does not tell. The rest still runs.
 */
export function runnable(
  question: Question,
  context: Pick<QuestionContext, 'catalogue' | 'lists'>,
): Runnable {
  const { object, where, columns, sort, groups, measures, first, asOf } = question;
  const { catalogue, lists } = context;
  const leftOut = new Map<string, LeftOut>();
  let at: LeftOutAt = 'where';
  let misses = 0;
  const miss = (part: string, reason: LeftOut['reason'], label?: string) => {
    misses += 1;
    const name = `${reason} ${part}`;
    // A part of a condition weighs more than the same part shown.
    if (!leftOut.has(name)) leftOut.set(name, { part, reason, at, ...(label ? { label } : {}) });
  };
  const isPast = asOf !== undefined;
  const known = (of: ObjectKey, path: string) => {
    const isKnown = stepsOf(catalogue, of, path) !== undefined;
    const isTold = isKnown && !(isPast && !isToldInPast(catalogue, of, path));
    if (!isKnown) miss(path, 'unknownField');
    else if (!isTold) miss(path, 'notInPast', labelOfPath(catalogue, of, path));
    return isTold;
  };
  const measurable = (of: ObjectKey, measure: Omit<Measure, 'where'>) =>
    measure.of === undefined || known(of, measure.of);

  const pruneTest = (of: ObjectKey, test: Test): Test | undefined => {
    if (!pathsOfTest(test).every((path) => known(of, path))) return undefined;
    if (fieldAt(catalogue, of, test.field)?.type !== 'lists' || !Array.isArray(test.value)) return test;
    const value = (test.value as number[]).filter((id) => {
      if (!lists.includes(id)) miss(String(id), 'unknownList');
      return lists.includes(id);
    });
    return value.length > 0 ? { ...test, value } : undefined;
  };
  const prune = (of: ObjectKey, condition: Condition): Condition | undefined => {
    if (isGroup(condition)) {
      const parts = condition.of.map((part) => prune(of, part)).filter((part) => part !== undefined);
      return parts.length > 0 ? { ...condition, of: parts } : undefined;
    }
    if (!isRelated(condition)) return pruneTest(of, condition);
    const { related, via, figure, pick, where: inner } = condition;
    if (via !== undefined && !known(of, via)) return undefined;
    const hub = via === undefined ? of : (fieldAt(catalogue, of, via)?.to as ObjectKey);
    const relation = relationOf(catalogue, hub, related);
    if (!relation) miss(related, 'unknownField');
    else if (isPast) miss(related, 'notInPast', objectType(relation.object).plural.toLowerCase());
    if (!relation || isPast || (figure && !measurable(relation.object, figure))) return undefined;
    if (pick && !known(relation.object, pick.by)) return undefined;
    return { ...condition, where: inner && prune(relation.object, inner) };
  };

  const kept: Question = subjectOf(question);
  const condition = where && prune(object, where);
  if (condition) kept.where = condition;
  at = 'columns';
  if (columns) kept.columns = columns.filter((path) => known(object, path));
  at = 'sort';
  if (sort) kept.sort = sort.filter(({ field }) => known(object, field));
  at = 'groups';
  if (groups) kept.groups = groups.filter(({ field }) => known(object, field));
  at = 'measures';
  if (measures)
    kept.measures = measures.filter((measure) => {
      const before = misses;
      // Without a part of its condition it would be a figure of more than was asked.
      if (measure.where) prune(object, measure.where);
      return measurable(object, measure) && misses === before;
    });
  // The first by a figure that is not there are none in particular; every group is answered then, and what is left out told.
  if (first && measures?.length === kept.measures?.length && groups?.length === kept.groups?.length)
    kept.first = first;
  return { question: kept, leftOut: [...leftOut.values()] };
}
