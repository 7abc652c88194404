import {
  addDays,
  canOverlap,
  fieldAt,
  isDated,
  periodOf,
  type CalendarRules,
  type Catalogue,
  type FieldValue,
  type FigureRow,
  type Grouping,
  type Measure,
  type ObjectKey,
} from '@zawn/core';

/** One value of a series at a category; `count` is the number of records behind it. */
export interface Point {
  value: number | null;
  count: number;
}

export interface Series {
  /** The keys it stands for: one, or, for those drawn together as the rest, several. */
  keys: readonly FieldValue[];
  isRest: boolean;
  points: readonly Point[];
}

/** Figures laid out for drawing: a category along the axis, a series a colour. */
export interface ChartFigures {
  categories: readonly FieldValue[];
  series: readonly Series[];
}

/** Series drawn apart; the smaller ones are drawn together. */
export const MOST_SERIES = 9;
/** Periods filled in where nothing happened. */
const MOST_PERIODS = 400;

/** Whether figures of a kind add up to the figure of all. */
export const addsUp = (as: Measure['as']): boolean => ['count', 'sum', 'share'].includes(as);

/** The figure of several groups from theirs; averages and medians cannot be put together without what is behind them. */
function together(values: readonly number[], as: Measure['as'], overlap: boolean): number | null {
  if (overlap && addsUp(as)) return null;
  if (as === 'least') return Math.min(...values);
  if (as === 'most') return Math.max(...values);
  return addsUp(as) ? values.reduce((sum, value) => sum + value, 0) : null;
}

/** Every period from the first to the last, those without records too. */
function withGaps(
  keys: readonly FieldValue[],
  by: Grouping['by'] = 'day',
  calendar: CalendarRules,
): FieldValue[] {
  const days = keys.filter((key): key is string => typeof key === 'string').sort();
  const filled: FieldValue[] = [];
  for (let day = days[0]; day !== undefined && day <= days[days.length - 1];) {
    filled.push(day);
    if (filled.length > MOST_PERIODS) return [...keys];
    const { to } = periodOf(by, day, calendar);
    day = to > day ? to : addDays(day, 1);
  }
  return keys.includes(null) ? [...filled, null] : filled;
}

/** What is drawn of rows of figures. */
export interface Chart {
  object: ObjectKey;
  /** One or two: the category, and what it is split into series by. */
  groups: readonly Grouping[];
  /** The place of the drawn figure; the count stands at 0. */
  at: number;
  /** What kind of figure it is: not all add up. */
  as?: Measure['as'];
  /** Keys of the series in their own order, as figures by the second group alone come; as they are met without it. */
  order?: readonly FieldValue[];
}

/** Rows of figures as categories and series. */
export function chartFigures(
  rows: readonly FigureRow[],
  { object, groups, at, as = 'sum', order = [] }: Chart,
  catalogue: Catalogue,
  calendar: CalendarRules,
): ChartFigures {
  const [first] = groups;
  const type = first && fieldAt(catalogue, object, first.field)?.type;
  const found = [...new Set(rows.map(({ keys }) => keys[0] ?? null))];
  const categories = type && isDated(type) ? withGaps(found, first.by, calendar) : found;
  const cells = new Map<string, Point>();
  const met = new Set(rows.map(({ keys }) => keys[1] ?? null));
  const weight = new Map<FieldValue, number>(
    [...order.filter((key) => met.has(key)), ...met].map((key) => [key, 0]),
  );
  for (const { keys, figures } of rows) {
    const split = keys[1] ?? null;
    cells.set(JSON.stringify([keys[0] ?? null, split]), { value: figures[at], count: figures[0] ?? 0 });
    weight.set(split, (weight.get(split) ?? 0) + Math.abs(figures[at] ?? 0));
  }
  const point = (category: FieldValue, split: FieldValue) =>
    cells.get(JSON.stringify([category, split])) ?? { value: null, count: 0 };
  const overlap = canOverlap(catalogue, object, groups.slice(1));
  const splits = groups.length > 1 ? [...weight.keys()] : [null];
  const heaviest = new Set(
    [...splits].sort((a, b) => (weight.get(b) ?? 0) - (weight.get(a) ?? 0)).slice(0, MOST_SERIES),
  );
  const kept = splits.filter((split) => splits.length <= MOST_SERIES + 1 || heaviest.has(split));
  const rest = splits.filter((split) => !kept.includes(split));
  const series: Series[] = kept.map((split) => ({
    keys: [split],
    isRest: false,
    points: categories.map((category) => point(category, split)),
  }));
  if (rest.length > 0) {
    const points = categories.map((category) => {
      const all = rest.map((split) => point(category, split));
      const known = all.map(({ value }) => value).filter((value) => value !== null);
      return {
        value: known.length > 0 ? together(known, as, overlap) : null,
        count: all.reduce((sum, { count }) => sum + count, 0),
      };
    });
    series.push({ keys: rest, isRest: true, points });
  }
  return { categories, series };
}
