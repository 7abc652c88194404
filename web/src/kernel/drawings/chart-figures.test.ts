import { builtIn, type FigureRow } from '@zawn/core';
import { addsUp, chartFigures, MOST_SERIES } from './chart-figures';

const calendar = { fiscalYearStart: 4, weekStart: 1 };
const row = (keys: FigureRow['keys'], ...figures: number[]): FigureRow => ({ keys, figures });

describe('figures for a chart', () => {
  it('fill in the months in which nothing happened', () => {
    const rows = [row(['2026-01-01'], 1, 10), row(['2026-04-01'], 2, 20), row([null], 1, 5)];
    const { categories, series } = chartFigures(
      rows,
      { object: 'deal', groups: [{ field: 'closeOn', by: 'month' }], at: 1 },
      builtIn,
      calendar,
    );
    expect(categories).toEqual(['2026-01-01', '2026-02-01', '2026-03-01', '2026-04-01', null]);
    expect(series).toHaveLength(1);
    expect(series[0].points.map(({ value }) => value)).toEqual([10, null, null, 20, 5]);
  });

  it('split into a series for each key of the second group', () => {
    const rows = [row(['open', 1], 1, 10), row(['open', 2], 2, 20), row(['won', 2], 3, 30)];
    const { categories, series } = chartFigures(
      rows,
      { object: 'deal', groups: [{ field: 'outcome' }, { field: 'owner' }], at: 1 },
      builtIn,
      calendar,
    );
    expect(categories).toEqual(['open', 'won']);
    expect(series.map(({ keys, points }) => [keys, points.map(({ value }) => value)])).toEqual([
      [[1], [10, null]],
      [[2], [20, 30]],
    ]);
  });

  it('keep series in their own order, whichever the first category begins with', () => {
    const rows = [
      row(['open', 3], 1, 10),
      row(['won', 1], 1, 20),
      row(['won', 3], 1, 30),
      row(['won', null], 1, 1),
    ];
    const chart = { object: 'deal', groups: [{ field: 'outcome' }, { field: 'owner' }], at: 1 } as const;
    const keysOf = (order?: (number | null)[]) =>
      chartFigures(rows, { ...chart, order }, builtIn, calendar).series.map(({ keys: [key] }) => key);
    expect(keysOf([1, 2, 3, null])).toEqual([1, 3, null]);
    expect(keysOf([3, 2])).toEqual([3, 1, null]);
    expect(keysOf()).toEqual([3, 1, null]);
  });

  it('draw the smallest series together, and lose nothing of them', () => {
    const owners = Array.from({ length: 14 }, (_, index) => index + 1);
    const rows = owners.map((owner) => row(['open', owner], 1, owner));
    const { series } = chartFigures(
      rows,
      { object: 'deal', groups: [{ field: 'outcome' }, { field: 'owner' }], at: 1 },
      builtIn,
      calendar,
    );
    expect(series).toHaveLength(MOST_SERIES + 1);
    expect(series.at(-1)).toMatchObject({ isRest: true, keys: [1, 2, 3, 4, 5] });
    const sum = series.reduce((total, { points }) => total + (points[0].value ?? 0), 0);
    expect(sum).toBe(owners.reduce((total, owner) => total + owner, 0));
  });

  it('put only together what adds up', () => {
    const owners = Array.from({ length: 14 }, (_, index) => index + 1);
    const rows = owners.map((owner) => row(['open', owner], 1, owner));
    const rest = (as: 'sum' | 'average' | 'least' | 'most') => {
      const groups = [{ field: 'outcome' }, { field: 'owner' }];
      const { series } = chartFigures(rows, { object: 'deal', groups, at: 1, as }, builtIn, calendar);
      return series.find(({ isRest }) => isRest)?.points[0].value;
    };
    // The five smallest: 1 to 5.
    expect([rest('sum'), rest('least'), rest('most'), rest('average')]).toEqual([15, 1, 5, null]);
    const tags = chartFigures(
      rows,
      { object: 'deal', groups: [{ field: 'outcome' }, { field: 'tags' }], at: 1 },
      builtIn,
      calendar,
    );
    expect(tags.series.at(-1)).toMatchObject({ isRest: true, points: [{ value: null }] });
    expect((['count', 'sum', 'share', 'average', 'least', 'most'] as const).filter(addsUp)).toEqual([
      'count',
      'sum',
      'share',
    ]);
  });
});
