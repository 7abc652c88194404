import {
  atTheirPlaces,
  canOverlap,
  fieldAt,
  inOrder,
  isMoneyMeasure,
  isObjectKey,
  leftOutInWords,
  objectType,
  orderFieldOf,
  subjectOf,
  withShares,
  type Actor,
  type Field,
  type FieldValue,
  type FigureRow,
  type FiguresAnswer,
  type Measure,
  type Names,
  type ObjectKey,
  type Question,
} from '@zawn/core';
import { type SqlRow, type Statement } from '../../platform/database/statement';
import { invalidInput } from '../../platform/http/problem';
import { figuresKept } from './kept-counts';
import { lacksCondition, refuseParts, type PreparedQuestion } from './prepared-question';
import { RecordReader } from './record-reader';
import { keyOf } from './rows-as-records';
import { sharedBy } from './sql-scope';
import { type Bands } from './to-sql';

/** The figures of one record in one group. */
export interface RecordFigures extends FigureRow {
  id: number;
  /** The measures without one, as the currency of the amount has no rate. */
  unrated?: number[];
}

/** What records that stand as keys are put in order by. */
export type Orders = Partial<Record<ObjectKey, Record<number, FieldValue>>>;

/** Groups that an answer holds at most: more than anyone reads, fewer than a browser chokes on. */
const MOST_GROUPS = 5000;

/** Works figures out: of groups, of each record by itself, and within bands of days. */
export class FigureReader extends RecordReader {
  /**
   * The figures that answer a question, a row a group in the order of their keys. Money is in minor units; what was left
   * out is nothing.
   * @param tells `'leftOut'` where the answer is shown with what was left out; otherwise there is none without it.
   */
  async figures(actor: Actor, question: Question, tells?: 'leftOut'): Promise<FiguresAnswer> {
    const asking = await this.asking(actor, question);
    const { question: known, context, leftOut } = asking;
    if (!tells && lacksCondition(asking)) return { rows: [], names: {}, leftOut, unrated: 0, isCut: false };
    const { object, groups = [], measures = [{ as: 'count' as const }] } = known;
    if (measures.length === 0)
      throw invalidInput(
        leftOut.length > 0
          ? leftOut.map((part) => ({ field: `measures.${part.part}`, message: leftOutInWords(part) }))
          : [{ field: 'measures', message: 'Figures need a measure, such as a count' }],
      );
    const mayLackRates = await this.mayLackRates(asking, measures);
    const compiled = (wanted: Question, limit: number) =>
      this.kept(asking, wanted, limit) ?? this.guarded(asking).figures(wanted, limit, mayLackRates);
    const rows = await this.many(asking, compiled({ ...known, measures }, MOST_GROUPS + 1));
    const fields = groups.map(({ field }) => fieldAt(context.catalogue, object, field));
    const answered = rows.slice(0, MOST_GROUPS).map((row): FigureRow => ({
      keys: fields.map((field, index) => keyOf(field, row[`k${index}`] as FieldValue)),
      figures: measures.map((_, index) => row[`m${index}`] as number | null),
    }));
    const { names, orderOf } = await this.keysNamed(asking, fields, answered);
    // Groups that overlap say nothing about all records, nor do the first of them. Shares are of all, and what has no rate
    // is told of all.
    const { first, ...unlimited } = known;
    const isAskedOfAll = mayLackRates || measures.some(({ as }) => as === 'share');
    const whole =
      isAskedOfAll && (first || canOverlap(context.catalogue, object, groups))
        ? await this.many(asking, compiled({ ...unlimited, groups: [], measures }, 1))
        : rows;
    const isMixed = (index: number) => {
      const met = [...rows, ...whole].flatMap((row) => [row[`least${index}`], row[`greatest${index}`]]);
      return new Set(met.filter((currency) => typeof currency === 'string')).size > 1;
    };
    const shared = withShares(answered, measures, isMixed, (index) => totalOf(whole, `m${index}`));
    return {
      rows: inOrder(atTheirPlaces(shared, question, measures), groups, object, context, orderOf),
      names,
      leftOut,
      unrated: unratedIn(whole, measures),
      isCut: rows.length > MOST_GROUPS,
    };
  }

  /**
   * The figures of a question for each of its records by itself: a row for each group that a record is in, with the names
   * and the order of the records that stand as keys.
   * @param limit rows at most; when there are more, undefined.
   * @throws Problem `invalid-input` naming what cannot be asked.
   */
  async figuresByRecord(
    actor: Actor,
    question: Question,
    limit: number,
  ): Promise<{ rows: RecordFigures[]; names: Names; orders: Orders } | undefined> {
    const asking = await this.asking(actor, question);
    refuseParts(asking.leftOut);
    const { groups = [], measures = [] } = asking.question;
    const mayLackRates = await this.mayLackRates(asking, measures);
    const statement = this.guarded(asking).figures(asking.question, limit + 1, mayLackRates, true);
    const found = await this.many(asking, statement);
    if (found.length > limit) return undefined;
    const fields = groups.map(({ field }) => fieldAt(asking.context.catalogue, question.object, field));
    const rows = found.map((row): RecordFigures => {
      const unrated = measures.flatMap((_, index) => (row[`unrated${index}`] ? [index] : []));
      return {
        id: Number(row.id),
        keys: fields.map((field, index) => keyOf(field, row[`k${index}`] as FieldValue)),
        figures: measures.map((_, index) => row[`m${index}`] as number | null),
        ...(unrated.length > 0 ? { unrated } : {}),
      };
    });
    const { names, orders } = await this.keysNamed(asking, fields, rows);
    return { rows, names, orders };
  }

  /** Figures of each value of a field within each band of days, over all records that answer a question. */
  async figuresInBands(
    actor: Actor,
    question: Question,
    row: string,
    bands: Bands,
    measures: readonly Measure[],
  ): Promise<{ cells: { row: number; band: string; figures: (number | null)[] }[]; unrated: number }> {
    const asking = await this.asking(actor, question);
    const { catalogue } = asking.context;
    // Of what the person does not see there is no figure.
    const seen = measures.filter(({ of }) => !of || fieldAt(catalogue, question.object, of));
    const mayLackRates = await this.mayLackRates(asking, seen);
    const rows = await this.many(asking, this.guarded(asking).figuresInBands(row, bands, seen, mayLackRates));
    const cells = rows.map((found) => ({
      row: Number(found.row),
      band: String(found.band),
      figures: measures.map((measure) => (found[`m${seen.indexOf(measure)}`] ?? null) as number | null),
    }));
    return { cells, unrated: unratedIn(rows, seen) };
  }

  /** Whether amounts that figures are made of may stand in a currency without a rate. */
  private async mayLackRates(
    { question, context }: PreparedQuestion,
    measures: readonly Measure[],
  ): Promise<boolean> {
    const isMoney = measures.some(
      (measure) => isMoneyMeasure(measure, question.object, context) || measure.as === 'share',
    );
    return isMoney && (await this.organisation.mayLackRates());
  }

  /** What the link keys of an answer are called and put in order by. */
  private async keysNamed(
    { actor, question }: PreparedQuestion,
    fields: readonly (Field | undefined)[],
    rows: readonly Pick<FigureRow, 'keys'>[],
  ) {
    const names: Names = {};
    const orders: Orders = {};
    for (const [index, field] of fields.entries()) {
      if (!isObjectKey(field?.to)) continue;
      const { to } = field;
      const ids = [...new Set(rows.map(({ keys }) => keys[index]).filter((key) => typeof key === 'number'))];
      const { nameField } = objectType(to);
      const asking = await this.asking(actor, { ...subjectOf(question), object: to });
      for (const record of await this.byIds(asking, ids, [], 'kept', 'stored')) {
        (orders[to] ??= {})[record.id] = record[orderFieldOf(to)];
        (names[to] ??= {})[record.id] = String(record[nameField]);
      }
    }
    return { names, orders, orderOf: (object: ObjectKey, id: number) => orders[object]?.[id] };
  }

  /** The figures of a question from counts that are kept; undefined where they do not answer it. */
  private kept(asking: PreparedQuestion, question: Question, limit: number): Statement | undefined {
    const held = this.heldTo(asking);
    // What is kept counts everybody's, and as it is now.
    if (held.root || asking.context.isPast) return undefined;
    const { context, rates, manager } = asking;
    return figuresKept(sharedBy(manager ?? this.database.reading, context, rates, held), question, limit);
  }
}

/** How many records have an amount that is in no figure, as its currency has no rate. */
function unratedIn(rows: readonly SqlRow[], measures: readonly Measure[]): number {
  return Math.max(0, ...measures.map((_, index) => totalOf(rows, `unrated${index}`)));
}

const totalOf = (rows: readonly SqlRow[], column: string) =>
  rows.reduce((sum, row) => sum + Number(row[column] ?? 0), 0);
