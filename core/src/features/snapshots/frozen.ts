import {
  fieldAt,
  objectType,
  stepsOf,
  type Catalogue,
  type Field,
  type FieldValue,
  type ObjectKey,
} from '../../kernel/catalogue';
import {
  ask,
  firstOf,
  inOrder,
  isGroup,
  isRelated,
  onItsDay,
  pathsOfTest,
  percentileOf,
  type Condition,
  type FigureRow,
  type Grouping,
  type Measure,
  type Question,
  type QuestionContext,
} from '../../kernel/questions';
import { type FiguresAnswer, type Names } from '../../kernel/questions/api';
import { columnsOf } from '../../kernel/views/design';
import { answerReport, type AskedOf, type ReportAnswer } from '../reports/answer';
import { besideKeys } from '../reports/other-records';
import { comparedIn, knownReport, reportParts } from '../reports/parts';
import { daysAt, type At } from '../reports/periods-within';
import { inOtherPeriod, measuredBy, type RowPlace } from '../reports/records-behind';
import { type OtherRecords, type ReportDesign } from '../reports/report';
import { askedBy } from '../reports/report-question';

/** Records that a snapshot holds at most, over all periods and kinds of them. */
export const MOST_FROZEN = 100_000;
/** Groups of a frozen report: as many as one that is asked anew has. */
const MOST_ROWS = 5000;

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

const same = (one: unknown, other: unknown) => JSON.stringify(one) === JSON.stringify(other);
const indexOf = (all: readonly unknown[], one: unknown) => all.findIndex((each) => same(each, one));

/** What tells how many groups there are by a field, where only the first of them are shown. */
const groupsCounted = (field: string): Measure[] => [
  { as: 'distinct', of: field },
  { as: 'count', where: { field, is: 'isEmpty' } },
];

/** A measure of one record, from which that of any of its groups follows. */
const ofOneRecord = (measure: Measure): Measure =>
  measure.as === 'share' ? { ...measure, as: 'sum' } : measure;

/** The field that an amount's currency is read from. */
function currencyOf(catalogue: Catalogue, object: ObjectKey, path: string): string | undefined {
  const currency = fieldAt(catalogue, object, path)?.currency;
  return currency && [...path.split('.').slice(0, -1), currency].join('.');
}

/** What a measure needs to be told of each record beside its figure. */
function besideMeasure(catalogue: Catalogue, object: ObjectKey, measure: Measure): Grouping[] {
  const { as, of, money } = measure;
  if (of === undefined) return [];
  if (as === 'distinct') return [{ field: of }];
  const currency = money === 'own' ? currencyOf(catalogue, object, of) : undefined;
  return currency ? [{ field: currency }] : [];
}

/**
 * What has to be asked record by record to freeze a report. The figures of any groups, and of any of its records alone,
 * follow from the answers.
 */
export function frozenParts(asked: ReportDesign, now: QuestionContext): FrozenPart[] {
  const context = onItsDay(asked.question, now);
  const { catalogue } = context;
  const { design } = knownReport(asked, catalogue);
  const times: At[] = ['now', ...comparedIn(design)];
  return reportParts(design, catalogue).parts.flatMap((part, index) =>
    times.map((at): FrozenPart => {
      const { question, split } = part.design;
      const { object, groups = [] } = question;
      const beside = part.measures.flatMap((measure) => besideMeasure(catalogue, object, measure));
      const wheres = part.measures.flatMap(({ where }) => (where ? [{ as: 'count' as const, where }] : []));
      const measures = [
        { as: 'count' as const },
        ...part.measures.map(ofOneRecord),
        ...wheres,
        ...(design.top !== undefined && groups[0] ? groupsCounted(groups[0].field) : []),
      ];
      return {
        at,
        part: index,
        ...(part.beside ? { beside: part.beside } : {}),
        question: {
          ...askedBy(part.design, context, daysAt(part.design, at, context)),
          groups: unique([...groups, ...(split ? [split] : []), ...beside]),
          measures: unique(measures),
        },
        columns: columnsShown(question),
      };
    }),
  );
}

/** The columns records are shown with: the question's own or the usual ones, else the first of their fields. */
function columnsShown({ object, columns }: Question): readonly string[] {
  const { category, fields } = objectType(object);
  if (columns || category === 'work')
    return columnsOf({ question: { ...ask(object), ...(columns ? { columns } : {}) }, draw: 'table' });
  return Object.keys(fields).slice(0, 5);
}

const unique = <T>(all: readonly T[]): T[] => [
  ...new Map(all.map((each) => [JSON.stringify(each), each])).values(),
];

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

/** One group of frozen rows. */
interface Bucket {
  keys: FieldValue[];
  rows: FrozenRow[];
}

/** A measure of some records of a part; each record counts once, however many rows it has. */
function measured(
  { groups = [], measures = [], object }: Question,
  measure: Measure,
  rows: readonly FrozenRow[],
  catalogue: Catalogue,
): number | null {
  const index = indexOf(measures, ofOneRecord(measure));
  const { as, of, money } = measure;
  if (as === 'distinct' && of !== undefined) {
    const at = indexOf(groups, { field: of });
    const found = rows.filter(({ figures }) => (figures[index] ?? 0) > 0);
    return new Set(found.map(({ keys }) => JSON.stringify(keys[at]))).size;
  }
  const values = new Map<number, number>();
  const currencies = new Set<FieldValue>();
  const currency = money === 'own' && of !== undefined ? currencyOf(catalogue, object, of) : undefined;
  const currencyAt = currency === undefined ? -1 : indexOf(groups, { field: currency });
  for (const { id, keys, figures } of rows) {
    const figure = figures[index];
    if (figure === null) continue;
    values.set(id, figure);
    if (currencyAt >= 0) currencies.add(keys[currencyAt]);
  }
  // Amounts of several currencies come to nothing that could be said.
  if (currencies.size > 1) return null;
  const all = [...values.values()];
  const sum = () => all.reduce((total, value) => total + value, 0);
  if (as === 'count' || as === 'distinct') return sum();
  if (all.length === 0) return null;
  switch (as) {
    case 'average':
      return sum() / all.length;
    case 'median':
      return percentileOf(all, 50);
    case 'percentile':
      return percentileOf(all, measure.at ?? 50);
    case 'least':
      return all.reduce((least, value) => Math.min(least, value));
    case 'most':
      return all.reduce((most, value) => Math.max(most, value));
    default:
      return sum();
  }
}

/** The figures of a question of a report, from the frozen rows of its part. */
function figuresFrom(
  part: FrozenPart,
  rows: readonly FrozenRow[],
  { groups = [], measures = [], first }: Question,
  among: AskedOf['among'],
  frozen: Frozen,
  context: QuestionContext,
): FiguresAnswer {
  const { catalogue } = context;
  const { groups: held = [], object } = part.question;
  const at = groups.map((group) => indexOf(held, group));
  const within = among && idsWithin(rows, among.keys);
  const meant = within ? rows.filter(({ id }) => within.has(id) === (among.join === 'any')) : rows;
  const buckets = new Map<string, Bucket>();
  if (groups.length === 0) buckets.set('[]', { keys: [], rows: [...meant] });
  else
    for (const row of meant) {
      const keys = at.map((index) => row.keys[index]);
      const name = JSON.stringify(keys);
      const bucket = buckets.get(name);
      if (bucket) bucket.rows.push(row);
      else buckets.set(name, { keys, rows: [row] });
    }
  const whole = measures.map((measure) =>
    measure.as === 'share' ? measured(part.question, measure, meant, catalogue) : null,
  );
  const found = [...buckets.values()].map(({ keys, rows: some }): FigureRow => ({
    keys,
    figures: measures.map((measure, index) => {
      const own = measured(part.question, measure, some, catalogue);
      if (measure.as !== 'share') return own;
      return whole[index] ? (own ?? 0) / whole[index] : null;
    }),
  }));
  const orderOf = (of: ObjectKey, id: number) => frozen.orders[of]?.[id];
  return {
    rows: inOrder(first ? firstOf(found, first) : found, groups, object, context, orderOf),
    names: frozen.names,
    leftOut: [],
    unrated: unratedIn(meant),
    isCut: false,
  };
}

/** The records that are in any of some of the outermost groups. */
function idsWithin(rows: readonly FrozenRow[], keys: readonly FieldValue[]): ReadonlySet<number> {
  const outermost = new Set(keys.map((key) => JSON.stringify(key)));
  return new Set(rows.filter((row) => outermost.has(JSON.stringify(row.keys[0]))).map(({ id }) => id));
}

function unratedIn(rows: readonly FrozenRow[]): number {
  const of = new Map<number, Set<number>>();
  for (const { id, unrated = [] } of rows)
    for (const measure of unrated) of.set(measure, (of.get(measure) ?? new Set()).add(id));
  return Math.max(0, ...[...of.values()].map(({ size }) => size));
}

/**
 * The figures of a frozen report, from its rows: all of them, or those of the records that somebody sees.
 * @param rows of each part, in the order of its parts.
 */
export async function answerFrozen(
  frozen: Frozen,
  rows: FrozenRows,
  catalogue: Catalogue,
): Promise<ReportAnswer> {
  const context = contextThen(frozen, catalogue);
  const asked = onItsDay(frozen.design.question, context);
  const answer = await answerReport(frozen.design, context, (question, { part, at, among }) => {
    const index = frozen.parts.findIndex((each) => each.part === part && each.at === at);
    return Promise.resolve(figuresFrom(frozen.parts[index], rows[index], question, among, frozen, asked));
  });
  return answer.rows.length > MOST_ROWS
    ? { ...answer, rows: answer.rows.slice(0, MOST_ROWS), isCut: true }
    : answer;
}

/** The records behind a place of a frozen report: which part they are of, and their ids, each once. */
export function behindFrozen(
  frozen: Frozen,
  rows: FrozenRows,
  place: RowPlace,
  catalogue: Catalogue,
): { part: number; ids: number[] } {
  const context = onItsDay(frozen.design.question, contextThen(frozen, catalogue));
  const { design } = knownReport(frozen.design, context.catalogue);
  const { measure, beside, at } = measuredBy(place.figure, design);
  const part = frozen.parts.findIndex((each) => each.at === at && same(each.beside, beside));
  const own = frozen.parts.at(part);
  if (part < 0 || !own) return { part: 0, ids: [] };
  const { keys, split } = (beside && besideKeys(design, beside, place.keys, place.split)) ?? place;
  const { groups: held = [], measures = [] } = own.question;
  const { design: partDesign } = reportParts(design, context.catalogue).parts[own.part];
  const { groups = [] } = partDesign.question;
  const then = (index: number, key: FieldValue) => inOtherPeriod(partDesign, groups[index], key, at, context);
  const { upTo, first } = place;
  const wanted = keys.map((key, index) => {
    const isLast = index === keys.length - 1;
    const any = upTo && isLast ? upTo : [key];
    return new Set(any.map((each) => JSON.stringify(then(index, each))));
  });
  const beyond = idsWithin(
    rows[part],
    (first ?? []).map((key) => then(0, key)),
  );
  const splitAt = partDesign.split ? indexOf(held, partDesign.split) : -1;
  const metAt = measure?.where ? indexOf(measures, { as: 'count', where: measure.where }) : -1;
  const found = rows[part].filter(
    (row) =>
      wanted.every((some, index) => some.has(JSON.stringify(row.keys[index]))) &&
      (split === undefined || splitAt < 0 || same(row.keys[splitAt], split)) &&
      !beyond.has(row.id) &&
      (metAt < 0 || (row.figures[metAt] ?? 0) > 0),
  );
  return { part, ids: [...new Set(found.map(({ id }) => id))] };
}
