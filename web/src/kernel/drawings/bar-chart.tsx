import { max, min } from 'd3-array';
import { scaleBand, scaleLinear } from 'd3-scale';
import { stack, stackOffsetDiverging } from 'd3-shape';
import { Link } from 'react-router';
import { useTheme } from '../../platform/theme/theme';
import { type Drawn } from './drawn';
import { Legend } from './legend';
import { useRowHeight, useSize, useTall } from './use-size';

const AXIS = { left: 78, bottom: 46, top: 22 };
const BAR = 30;
/** Room of the labels beside bars, and of the sums behind them. */
const SIDE = 190;
const SUMS = 92;
const TICKS = 5;

/** About as wide as a letter of a label is. */
const LETTER = 6.4;

/** A label cut to the room it has. */
export const clipped = (label: string, width: number): string => {
  const most = Math.max(3, Math.floor(width / LETTER));
  return label.length > most ? `${label.slice(0, most - 1)}…` : label;
};

interface Props {
  drawn: Drawn;
  upright: boolean;
  /** A line to reach. */
  target?: number | undefined;
}

/** Categories as columns or bars, one series stacked on the other. */
export function BarChart({ drawn, upright, target }: Props) {
  const colours = useTheme().series(drawn.series.length);
  const [ref, size] = useSize();
  const { width } = size;
  const tall = useTall(size);
  const row = useRowHeight(size, drawn.categories.length, BAR);
  // On a phone the names and the sums leave room for the bars.
  const side = Math.min(SIDE, width * 0.34);
  const sums = Math.min(SUMS, width * 0.2);
  const ticks = upright ? TICKS : Math.min(TICKS, Math.max(2, Math.floor((width - side - sums) / 60)));
  const { categories, series } = drawn;
  const places = categories.map((_, index) => index);
  const valueAt = (category: number, index: number) => series[index].points[category].value ?? 0;
  // Averages, leasts and mosts do not add up: they stand side by side, each from the ground.
  const isStacked = drawn.addsUp || series.length === 1;
  const layers: readonly (readonly (readonly [number, number])[])[] = isStacked
    ? stack<number, number>()
        .keys(series.map((_, index) => index))
        .value(valueAt)
        .offset(stackOffsetDiverging)(places)
        .map((layer) => layer.map(([from, to]) => [from, to] as const))
    : series.map((_, index) =>
        places.map((category) => {
          const value = valueAt(category, index);
          return value < 0 ? ([value, 0] as const) : ([0, value] as const);
        }),
      );
  const { labels, from: limit, to: end } = drawn.style ?? {};
  const most = end ?? Math.max(max(layers, (layer) => max(layer, ([, to]) => to)) ?? 0, target ?? 0);
  const least = limit ?? Math.min(0, min(layers, (layer) => min(layer, ([from]) => from)) ?? 0);
  const length = upright ? tall : categories.length * row;
  const across = upright ? Math.max(0, width - AXIS.left) : length;
  const band = scaleBand(places, [0, across])
    .paddingInner(upright ? 0.28 : 0.32)
    .paddingOuter(0.15);
  const scale = scaleLinear(
    [least, most || 1],
    upright ? [tall - AXIS.bottom, AXIS.top] : [side, Math.max(side + 60, width - sums)],
  ).clamp(limit !== undefined || end !== undefined);
  if (end === undefined) scale.nice(ticks);
  const height = upright ? tall : length + AXIS.top;
  const totals = places.map((category) =>
    isStacked ? series.reduce((sum, _, index) => sum + valueAt(category, index), 0) : null,
  );
  const lane = isStacked ? band.bandwidth() : band.bandwidth() / series.length;
  const everySo = upright ? Math.ceil(categories.length / Math.max(1, Math.floor(across / 62))) : 1;
  // A scale has more marks than were asked for now and then: only so many are labelled as have room.
  const marks = scale.ticks(ticks);
  const widest = Math.max(...marks.map((tick) => drawn.text(tick).length)) * LETTER + 14;
  const everyMark = Math.ceil(widest / Math.max(1, scale(marks[1] ?? 0) - scale(marks[0] ?? 0)));
  return (
    <>
      <Legend drawn={drawn} />
      <div ref={ref} className={upright ? 'chart' : 'chart chart-rows'}>
        <svg width={width} height={height} role="group" aria-label={drawn.label}>
          {marks.map((tick, index) =>
            upright ? (
              <g key={tick} className="axis">
                <line x1={AXIS.left} x2={width} y1={scale(tick)} y2={scale(tick)} />
                <text x={AXIS.left - 8} y={scale(tick) + 4} textAnchor="end">
                  {drawn.text(tick)}
                </text>
              </g>
            ) : (
              <g key={tick} className="axis">
                <line x1={scale(tick)} x2={scale(tick)} y1={AXIS.top - 6} y2={height} />
                {index % everyMark === 0 && (
                  <text x={scale(tick)} y={12} textAnchor="middle">
                    {drawn.text(tick)}
                  </text>
                )}
              </g>
            ),
          )}
          {layers.map((layer, index) =>
            layer.map(([from, to], category) => {
              const point = series[index].points[category];
              if (point.value === null || from === to) return null;
              const words = drawn.words(category, index, point);
              const start = (band(category) ?? 0) + (isStacked ? 0 : lane * index);
              const box = upright
                ? {
                    x: AXIS.left + start,
                    y: scale(to),
                    width: lane,
                    height: Math.max(1, scale(from) - scale(to)),
                  }
                : {
                    x: scale(from),
                    y: AXIS.top + start,
                    width: Math.max(1, scale(to) - scale(from)),
                    height: lane,
                  };
              return (
                <Link key={`${index} ${category}`} to={drawn.to(category, index)} aria-label={words}>
                  <rect className="bar-segment" {...box} fill={colours[index % colours.length]}>
                    <title>{words}</title>
                  </rect>
                </Link>
              );
            }),
          )}
          {target !== undefined && (
            <line
              className="target-line"
              {...(upright
                ? { x1: AXIS.left, x2: width, y1: scale(target), y2: scale(target) }
                : { x1: scale(target), x2: scale(target), y1: AXIS.top - 6, y2: height })}
            >
              <title>{`Target: ${drawn.text(target)}`}</title>
            </line>
          )}
          {categories.map(({ label, to }, category) => {
            const middle = (band(category) ?? 0) + band.bandwidth() / 2;
            if (upright) {
              if (category % everySo !== 0) return null;
              return (
                <Link key={category} to={to}>
                  <text
                    className="axis-label"
                    x={AXIS.left + middle}
                    y={tall - AXIS.bottom + 18}
                    textAnchor="middle"
                  >
                    {clipped(label, band.step() * everySo)}
                  </text>
                  {(labels ?? (band.bandwidth() > 34 ? 'all' : 'none')) === 'all' &&
                    (totals[category] ?? 0) > 0 && (
                      <text
                        className="axis-sum"
                        x={AXIS.left + middle}
                        y={scale(max(layers, (layer) => layer[category][1]) ?? 0) - 6}
                        textAnchor="middle"
                      >
                        {drawn.text(totals[category])}
                      </text>
                    )}
                </Link>
              );
            }
            return (
              <Link key={category} to={to}>
                <text className="axis-label" x={side - 10} y={AXIS.top + middle + 4} textAnchor="end">
                  {clipped(label, side - 10)}
                </text>
                <text
                  className="axis-sum"
                  x={scale(max(layers, (layer) => layer[category][1]) ?? 0) + 8}
                  y={AXIS.top + middle + 4}
                >
                  {totals[category] === null || labels === 'none' ? '' : drawn.text(totals[category])}
                </text>
              </Link>
            );
          })}
        </svg>
      </div>
    </>
  );
}
