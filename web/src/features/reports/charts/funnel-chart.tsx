import { max } from 'd3-array';
import { scaleBand, scaleLinear } from 'd3-scale';
import { Link } from 'react-router';
import { clipped } from '../../../kernel/drawings/bar-chart';
import { type Drawn } from '../../../kernel/drawings/drawn';
import { useRowHeight, useSize } from '../../../kernel/drawings/use-size';
import { useTheme } from '../../../platform/theme/theme';

const STEP = 34;
/** Room of the names beside the steps, and of the figures behind them. */
const SIDE = 160;
const FIGURES = 110;
const LEAST_FIGURES = 82;

/** Categories one below the other as bars about a middle, the first on top: how much there is at each step. */
export function FunnelChart({ drawn }: { drawn: Drawn }) {
  const [colour] = useTheme().series(1);
  const [ref, size] = useSize();
  const { width } = size;
  const row = useRowHeight(size, drawn.categories.length, STEP);
  const { categories, series } = drawn;
  const [{ points }] = series;
  const side = Math.min(SIDE, width * 0.3);
  const room = Math.max(40, width - side - Math.min(FIGURES, Math.max(LEAST_FIGURES, width * 0.25)));
  const height = categories.length * row;
  const band = scaleBand(
    categories.map((_, index) => index),
    [0, height],
  ).paddingInner(0.24);
  const length = scaleLinear([0, max(points, ({ value }) => value ?? 0) || 1], [0, room]);
  return (
    <div ref={ref} className="chart chart-rows">
      <svg width={width} height={height} role="group" aria-label={drawn.label}>
        {categories.map(({ label, to }, category) => {
          const point = points[category];
          const words = drawn.words(category, 0, point);
          const top = band(category) ?? 0;
          const middle = top + band.bandwidth() / 2 + 4;
          const wide = Math.max(2, length(Math.max(0, point.value ?? 0)));
          return (
            <g key={label}>
              <Link to={to}>
                <text className="axis-label" x={0} y={middle}>
                  {clipped(label, side - 8)}
                </text>
              </Link>
              <Link to={drawn.to(category, 0)} aria-label={words}>
                <rect
                  className="bar-segment"
                  x={side + (room - wide) / 2}
                  y={top}
                  width={wide}
                  height={band.bandwidth()}
                  rx={2}
                  fill={colour}
                >
                  <title>{words}</title>
                </rect>
              </Link>
              <text className="axis-sum" x={width} y={middle} textAnchor="end">
                {drawn.text(point.value)}
              </text>
            </g>
          );
        })}
      </svg>
    </div>
  );
}
