import { addDays, addMonths, startOfMonth, type Day } from '../../platform/time';

/** A column of the deal grid: expected close before this month, in a month, or after the months shown. */
export interface GridColumn {
  key: string;
  /** First day that belongs to the column; undefined for *overdue*. */
  from?: Day;
  /** First day that no longer does; undefined for *later*. */
  to?: Day;
}

/** Months shown beside *overdue* and *later*: this one and the next three. */
const MONTHS_SHOWN = 4;

/** The columns of the grid: overdue, this month, the next three, later. */
export function gridColumns(today: Day): GridColumn[] {
  const first = startOfMonth(today);
  const months = Array.from({ length: MONTHS_SHOWN }, (_, index) => {
    // Days of this month that have gone by are overdue already.
    const from = index === 0 ? today : addMonths(first, index);
    return { key: addMonths(first, index).slice(0, 7), from, to: addMonths(first, index + 1) };
  });
  return [{ key: 'overdue', to: today }, ...months, { key: 'later', from: addMonths(first, MONTHS_SHOWN) }];
}

/** The column a close date falls into. */
export function columnOf(closeOn: Day, columns: readonly GridColumn[]): GridColumn {
  const found = columns.find(
    ({ from, to }) => (from === undefined || closeOn >= from) && (to === undefined || closeOn < to),
  );
  return found ?? columns[columns.length - 1];
}

/**
 * The close date of a deal dropped on a column: its own date when it is in there already, else the same day of
 * the column's month, as near as that month allows. *Overdue* takes no deals and gives undefined; a date is
 * never moved into the past.
 */
export function closeDateIn(
  column: GridColumn,
  closeOn: Day,
  columns: readonly GridColumn[],
): Day | undefined {
  if (columnOf(closeOn, columns).key === column.key) return closeOn;
  if (column.from === undefined) return undefined;
  const month = startOfMonth(column.from);
  const sameDay = addDays(month, Number(closeOn.slice(8)) - 1);
  const last = addDays(addMonths(month, 1), -1);
  const near = sameDay > last ? last : sameDay;
  return near < column.from ? column.from : near;
}

/** What the grid says about deals together, in minor units of the reporting currency. */
export interface GridSum {
  count: number;
  value: number;
  weighted: number;
}

/** All deals of one stage and column together. */
export interface GridCell extends GridSum {
  stage: number;
  column: string;
}

/** The sums of a grid: of each cell, and at both edges. */
export interface GridSums {
  byCell: Map<string, GridSum>;
  byStage: Map<number, GridSum>;
  byColumn: Map<string, GridSum>;
  total: GridSum;
}

/** The name of a cell: its stage and its column. */
export const cellKey = (stage: number, column: string) => `${stage}|${column}`;

/** The sums at the edges of a grid from those of its cells. Cells of other stages are no part of it. */
export function gridSums(
  cells: readonly GridCell[],
  stages: readonly number[],
  columns: readonly GridColumn[],
): GridSums {
  const nothing = (): GridSum => ({ count: 0, value: 0, weighted: 0 });
  const sums: GridSums = {
    byCell: new Map(),
    byStage: new Map(stages.map((stage) => [stage, nothing()])),
    byColumn: new Map(columns.map(({ key }) => [key, nothing()])),
    total: nothing(),
  };
  for (const { stage, column, ...cell } of cells) {
    const edges = [sums.byStage.get(stage), sums.byColumn.get(column), sums.total];
    if (edges.includes(undefined)) continue;
    sums.byCell.set(cellKey(stage, column), cell);
    for (const edge of edges as GridSum[]) {
      edge.count += cell.count;
      edge.value += cell.value;
      edge.weighted += cell.weighted;
    }
  }
  return sums;
}
