import { addDays, addMonths, startOfMonth, type Day } from '../time';

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

/** What the grid adds up about a deal, in minor units of the reporting currency. */
export interface GridDeal {
  id: number;
  stage: number;
  closeOn: Day;
  value: number;
  weighted: number;
}

export interface GridSum {
  count: number;
  value: number;
  weighted: number;
}

export interface DealGrid<D extends GridDeal> {
  columns: GridColumn[];
  /** Deals by stage and column key, in close-date order, then the larger first. */
  cells: Map<number, Map<string, D[]>>;
  byStage: Map<number, GridSum>;
  byColumn: Map<string, GridSum>;
  total: GridSum;
}

const nothing = (): GridSum => ({ count: 0, value: 0, weighted: 0 });

function add(sum: GridSum, deal: GridDeal): void {
  sum.count += 1;
  sum.value += deal.value;
  sum.weighted += deal.weighted;
}

/** Lays open deals out by stage and expected close, with sums on both edges. */
export function dealGrid<D extends GridDeal>(
  deals: readonly D[],
  stages: readonly number[],
  today: Day,
): DealGrid<D> {
  const columns = gridColumns(today);
  const grid: DealGrid<D> = {
    columns,
    cells: new Map(stages.map((stage) => [stage, new Map(columns.map(({ key }) => [key, [] as D[]]))])),
    byStage: new Map(stages.map((stage) => [stage, nothing()])),
    byColumn: new Map(columns.map(({ key }) => [key, nothing()])),
    total: nothing(),
  };
  const ordered = [...deals].sort((a, b) =>
    a.closeOn < b.closeOn ? -1 : a.closeOn > b.closeOn ? 1 : b.value - a.value,
  );
  for (const deal of ordered) {
    const column = columnOf(deal.closeOn, columns);
    const stageSum = grid.byStage.get(deal.stage);
    const columnSum = grid.byColumn.get(column.key);
    // A deal whose stage is of another pipeline is not part of this grid.
    if (!stageSum || !columnSum) continue;
    grid.cells.get(deal.stage)?.get(column.key)?.push(deal);
    for (const sum of [stageSum, columnSum, grid.total]) add(sum, deal);
  }
  return grid;
}
