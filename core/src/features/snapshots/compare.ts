import { type FieldValue } from '../../kernel/catalogue';
import { type ReportAnswer } from '../reports/answer';
import { type ReportDesign, type ReportFigure, type ReportRow } from '../reports/report';
import { type CompareAnswer, type FrozenAnswer } from './api';
import { type FrozenRow } from './frozen';

/** A row of a report at two moments; one of them is missing where the group was not there then. */
export interface ComparedRow {
  keys: FieldValue[];
  isRest: boolean;
  was?: ReportRow;
  is?: ReportRow;
}

const nameOf = ({ keys, rest }: ReportRow) => JSON.stringify([keys, rest !== undefined]);

/** Whether two reports have the same groups and figures, so that their rows can stand side by side. */
export function areComparable(one: ReportDesign, other: ReportDesign): boolean {
  const shape = ({ question: { object, groups = [] }, split, figures }: ReportDesign) =>
    JSON.stringify([object, groups, split, figures.map(({ label: _label, ...figure }) => figure)]);
  return shape(one) === shape(other);
}

/** What an answer says of one of its series alone; nothing is said of a series that was not there. */
export const oneSeries = (answer: ReportAnswer, split: FieldValue): ReportAnswer => {
  const at = answer.splits.findIndex((key) => key === split);
  return {
    ...answer,
    splits: [],
    rows: answer.rows.map(({ split: all, ...row }) => ({
      ...row,
      ...(all?.[at] ?? { count: 0, figures: row.figures.map(() => null) }),
    })),
  };
};

/** The rows of two answers side by side, in the order of the later one; those that are gone where they stood. */
export function comparedRows(was: ReportAnswer, is: ReportAnswer): ComparedRow[] {
  const before = new Map(was.rows.map((row) => [nameOf(row), row]));
  const rows = is.rows.map((row): ComparedRow => {
    const then = before.get(nameOf(row));
    return { keys: row.keys, isRest: row.rest !== undefined, is: row, ...(then ? { was: then } : {}) };
  });
  const at = new Map(rows.map((row) => [row.is ? nameOf(row.is) : '', row]));
  let last: ComparedRow | undefined;
  for (const row of was.rows) {
    const there = at.get(nameOf(row));
    if (there) {
      last = there;
      continue;
    }
    const gone: ComparedRow = { keys: row.keys, isRest: row.rest !== undefined, was: row };
    rows.splice(last ? rows.indexOf(last) + 1 : 0, 0, gone);
    last = gone;
  }
  return rows;
}

/**
 * Whether a row has not the same records and figures at both moments. Shares and running totals are not looked at: they
 * follow from other rows, so that one that differs would mark them all.
 */
export function differs({ was, is }: ComparedRow, figures: readonly ReportFigure[]): boolean {
  if (!was || !is) return true;
  const isOwn = (figure: ReportFigure) => !('shareOf' in figure || 'running' in figure);
  return (
    was.count !== is.count ||
    figures.some((figure, index) => isOwn(figure) && was.figures[index] !== is.figures[index])
  );
}

/** By how much a figure of a row differs; null where it has none at both moments. */
export function changeOf({ was, is }: ComparedRow, index: number): number | null {
  const [then, now] = [was?.figures[index] ?? null, is?.figures[index] ?? null];
  return then === null && now === null ? null : (now ?? 0) - (then ?? 0);
}

/** How many of the records of a snapshot the reader sees, where that is not all of them. */
export function seenInWords(
  { seen, records, hidden }: FrozenAnswer,
  number: (count: number) => string,
): string | undefined {
  if (hidden.length > 0 || seen === records) return undefined;
  return `It was taken of ${number(records)} records. The figures are of the ${number(seen)} that you see`;
}

/** What is to be known before two moments are compared, as sentences. */
export function saidOfComparison(
  { was, is, isSameQuestion, isSameReader }: CompareAnswer,
  number: (count: number) => string,
): string[] {
  const [seenThen, seenNow] = [was, is].map((side) => seenInWords(side, number));
  return [
    ...(isSameQuestion
      ? []
      : ['The two do not ask for the same records: only their groups and figures are alike']),
    ...(isSameReader
      ? []
      : [
          'One of the two shows what somebody else sees: records may differ only because you do not see them',
        ]),
    ...(seenThen ? [`The earlier one: ${seenThen}`] : []),
    ...(seenNow ? [`The later one: ${seenNow}`] : []),
  ];
}

/** Records behind a figure at two moments. */
export interface DifferingRecords {
  /** Only behind the later one. */
  came: number[];
  /** Only behind the earlier one. */
  went: number[];
  /** Behind both, counted otherwise. */
  changed: number[];
}

/**
 * Which records make two figures differ.
 * @param was the rows behind the earlier figure, by record; @param is those behind the later one.
 * @param measure the figure's place among the measures, where records are counted by more than being there.
 */
export function differingRecords(
  was: readonly FrozenRow[],
  is: readonly FrozenRow[],
  measure: number | undefined,
): DifferingRecords {
  const figures = (rows: readonly FrozenRow[]) =>
    new Map(rows.map((row) => [row.id, measure === undefined ? 1 : row.figures[measure]]));
  const [then, now] = [figures(was), figures(is)];
  return {
    came: [...now.keys()].filter((id) => !then.has(id)),
    went: [...then.keys()].filter((id) => !now.has(id)),
    changed: [...now].filter(([id, figure]) => then.has(id) && then.get(id) !== figure).map(([id]) => id),
  };
}
