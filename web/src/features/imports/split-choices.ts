import { type ImportLook, type TableHead } from '@zawn/core';
import {
  type AppliedSplit,
  type ColumnMap,
  type ColumnSplit,
  type ImportSetup,
  type SplitAt,
} from '@zawn/core/imports';

/** The ways a column can be split, with how each is said. */
const ways: readonly { at: SplitAt; label: string; isIn: (cell: string) => boolean }[] = [
  {
    at: 'address',
    label: 'Split into street, postcode, town',
    isIn: (cell) => /\d/.test(cell) && /\p{L}/u.test(cell),
  },
  { at: 'comma', label: 'Split at commas', isIn: (cell) => cell.includes(',') },
  { at: 'semicolon', label: 'Split at semicolons', isIn: (cell) => cell.includes(';') },
  { at: 'slash', label: 'Split at slashes', isIn: (cell) => cell.includes('/') },
  { at: 'line', label: 'Split at line breaks', isIn: (cell) => cell.includes('\n') },
  { at: 'space', label: 'Split at spaces', isIn: (cell) => cell.includes(' ') },
];

/** The ways in which the cells of a column can be split, as far as any of them would be. */
export const waysToSplit = (cells: readonly string[]) =>
  ways.filter(({ isIn }) => cells.some(isIn)).map(({ at, label }) => ({ at, label }));

/** Of which split column one of the table is a part. */
export const splitOf = (splits: readonly AppliedSplit[] = [], column: number): AppliedSplit | undefined =>
  splits.find(({ from, parts }) => column >= from && column < from + parts);

/** Where a column of the table stands in the file, in which split columns are one. */
export const inFile = (splits: readonly AppliedSplit[] = [], column: number): number =>
  splits.reduce((at, { from, parts }) => (from + parts <= column ? at - (parts - 1) : at), column);

/** The splits of a table with one column split, or with one kept whole. */
export function splitsWith(
  { splits = [] }: Pick<TableHead, 'splits'>,
  column: number,
  at?: SplitAt,
): ColumnSplit[] {
  const own = splitOf(splits, column);
  const others = splits.filter((each) => each !== own).map((each) => ({ column: each.column, at: each.at }));
  return at === undefined ? others : [...others, { column: inFile(splits, column), at }];
}

/** What the columns fill once others are split: as before where they are the same, as guessed where they are new. */
export function columnsAfter(
  { table }: Pick<ImportLook, 'table'>,
  before: Pick<ImportSetup, 'columns'>,
  seen: Pick<ImportLook, 'table' | 'setup'>,
): ColumnMap {
  const kept = new Map(
    table.headings.flatMap((_, column) =>
      splitOf(table.splits, column) ? [] : [[inFile(table.splits, column), before.columns[column]]],
    ),
  );
  const { splits, headings } = seen.table;
  const guessed = seen.setup.columns;
  const columns = headings.map((_, column) => {
    const known = splitOf(splits, column) ? undefined : kept.get(inFile(splits, column));
    return known === undefined ? guessed[column] : known;
  });
  // What was pointed somewhere by hand stays there: a part of another column does not fill the same field.
  const taken = new Set(
    headings.flatMap((_, column) => (splitOf(splits, column) ? [] : (columns[column] ?? []))),
  );
  return columns.map((path, column) =>
    splitOf(splits, column) && path !== null && taken.has(path) ? null : path,
  );
}
