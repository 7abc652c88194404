import { stepsOf, type Catalogue, type Field, type FieldValue, type ObjectKey } from '../../kernel/catalogue';
import {
  isGroup,
  isRelated,
  pathsOfTest,
  type Condition,
  type Question,
  type QuestionContext,
} from '../../kernel/questions';
import { type Names } from '../../kernel/questions/api';
import { type At } from '../reports/periods-within';
import { type OtherRecords, type ReportDesign } from '../reports/report';

/** Records that a snapshot holds at most, over all periods and kinds of them. */
export const MOST_FROZEN = 100_000;

/** What a snapshot holds of one kind of records in one period: what is asked record by record when it is made. */
export interface FrozenPart {
  at: At;
  beside?: OtherRecords;
  /** Which part of the report it is, see `reportParts`. */
  part: number;
  /** Its measures for each group and record: the groups are the report's, its split, and what measures look at beside. */
  question: Question;
  /** The columns its records are shown with. */
  columns: readonly string[];
}

/** A record in one group, as it was counted. A record that is in several has a row for each. */
export interface FrozenRow {
  id: number;
  /** In the order of the part's groups. */
  keys: readonly FieldValue[];
  /** In the order of the part's measures. */
  figures: readonly (number | null)[];
  /** The measures that have none, as the currency of the amount had no rate. */
  unrated?: readonly number[];
}

/** A record as it read. */
export interface FrozenRecord {
  id: number;
  name: string;
  /** In the order of the part's columns. */
  values: readonly FieldValue[];
}

/** The moment a snapshot is of, and for whom it was asked. */
export type FrozenMoment = Omit<QuestionContext, 'catalogue'>;

/** What a snapshot keeps beside its records. It never changes. */
export interface Frozen {
  version: 1;
  design: ReportDesign;
  moment: FrozenMoment;
  /** The fields it is made of as they were described then, by object and key. */
  fields: Partial<Record<ObjectKey, Record<string, Field>>>;
  parts: FrozenPart[];
  names: Names;
  /** What the records that stand as keys are put in order by. */
  orders: Partial<Record<ObjectKey, Record<number, FieldValue>>>;
}

/** The rows of each part, in the order of the parts. */
export type FrozenRows = readonly (readonly FrozenRow[])[];

/** Every path that some questions read. */
function pathsIn({ where, groups = [], measures = [] }: Question): string[] {
  const ofCondition = (condition: Condition | undefined): string[] => {
    if (!condition) return [];
    if (isGroup(condition)) return condition.of.flatMap(ofCondition);
    return isRelated(condition) ? [] : pathsOfTest(condition);
  };
  return [
    ...ofCondition(where),
    ...groups.map(({ field }) => field),
    ...measures.flatMap(({ of, where: met }) => [...(of === undefined ? [] : [of]), ...ofCondition(met)]),
  ];
}

/** The fields that a snapshot is made of, as they are described now. */
export function fieldsFrozen(parts: readonly FrozenPart[], catalogue: Catalogue): Frozen['fields'] {
  const fields: Frozen['fields'] = {};
  for (const { question, columns } of parts)
    for (const path of [...pathsIn(question), ...columns])
      for (const { object, key, field } of stepsOf(catalogue, question.object, path) ?? [])
        (fields[object] ??= {})[key] = field;
  return fields;
}

/** The fields that the figures of a snapshot follow from and that somebody does not see, by their labels. */
export function hiddenIn(
  { parts, fields }: Frozen,
  catalogue: Catalogue,
  hidden: (object: ObjectKey) => ReadonlySet<string>,
): string[] {
  const then = catalogueThen({ fields }, catalogue);
  const kept = parts.flatMap(({ question }) => hiddenOn(then, question.object, pathsIn(question), hidden));
  return [...new Set(kept)];
}

/** The fields on some paths that somebody does not see, by their labels. */
export const hiddenOn = (
  catalogue: Catalogue,
  object: ObjectKey,
  paths: readonly string[],
  hidden: (object: ObjectKey) => ReadonlySet<string>,
): string[] =>
  paths
    .flatMap((path) => stepsOf(catalogue, object, path) ?? [])
    .filter((step) => hidden(step.object).has(step.key))
    .map(({ field }) => field.label);

/** A catalogue in which what a snapshot is made of is described as it was then. */
export function catalogueThen({ fields }: Pick<Frozen, 'fields'>, catalogue: Catalogue): Catalogue {
  const own: Record<string, Readonly<Record<string, Field>>> = { ...catalogue.own };
  const custom: Record<string, Readonly<Record<string, Field>>> = { ...catalogue.custom };
  for (const [object, then] of Object.entries(fields))
    for (const [key, field] of Object.entries(then)) {
      const of = Object.hasOwn(own[object] ?? {}, key) ? own : custom;
      of[object] = { ...of[object], [key]: field };
    }
  return { ...catalogue, own, custom } as Catalogue;
}

/** What questions meant at the moment of a snapshot. */
export const contextThen = (frozen: Frozen, catalogue: Catalogue): QuestionContext => ({
  ...frozen.moment,
  catalogue: catalogueThen(frozen, catalogue),
});
