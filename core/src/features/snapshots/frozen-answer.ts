import { type Catalogue, type FieldValue, type ObjectKey } from '../../kernel/catalogue';
import {
  firstOf,
  inOrder,
  onItsDay,
  percentileOf,
  type FigureRow,
  type Measure,
  type Question,
  type QuestionContext,
} from '../../kernel/questions';
import { type FiguresAnswer } from '../../kernel/questions/api';
import { answerReport, type AskedOf, type ReportAnswer } from '../reports/answer';
import { besideKeys } from '../reports/other-records';
import { knownReport, reportParts } from '../reports/parts';
import { inOtherPeriod, measuredBy, type RowPlace } from '../reports/records-behind';
import { contextThen, type Frozen, type FrozenPart, type FrozenRow, type FrozenRows } from './frozen';
import { currencyOf, ofOneRecord } from './frozen-parts';

/** Groups of a frozen report: as many as one that is asked anew has. */
const MOST_ROWS = 5000;

const same = (one: unknown, other: unknown) => JSON.stringify(one) === JSON.stringify(other);
const indexOf = (all: readonly unknown[], one: unknown) => all.findIndex((each) => same(each, one));

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
