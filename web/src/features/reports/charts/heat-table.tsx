import { max } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { Link } from 'react-router';
import { clipped } from '../../../kernel/drawings/bar-chart';
import { type Drawn } from '../../../kernel/drawings/drawn';
import { useSize } from '../../../kernel/drawings/use-size';
import { useTheme } from '../../../platform/theme/theme';

const ROW = 30;
const HEAD = 24;
const SIDE = 170;
const NARROWEST = 64;
const WIDEST = 150;

/** Categories by series as a table, the larger the figure the deeper its ground. */
export function HeatTable({ drawn }: { drawn: Drawn }) {
  const [colour] = useTheme().series(1);
  const [ref, size] = useSize();
  const { categories, series } = drawn;
  const side = Math.min(SIDE, size.width * 0.3);
  const cell = Math.min(WIDEST, Math.max(NARROWEST, (size.width - side) / series.length));
  const width = side + cell * series.length;
  const height = HEAD + categories.length * ROW;
  // The ink on it stays readable on the deepest ground.
  const depth = scaleLinear(
    [0, max(series, ({ points }) => max(points, ({ value }) => value ?? 0)) || 1],
    [0, 0.4],
  );
  return (
    <div
      ref={ref}
      className="chart chart-rows heat"
      tabIndex={0}
      role="region"
      aria-label={`Table: ${drawn.label}`}
    >
      <svg width={width} height={height} role="group" aria-label={drawn.label}>
        {series.map(({ label, to }, index) => (
          <Link key={label} to={to}>
            <text className="axis-label" x={side + cell * (index + 1) - 10} y={15} textAnchor="end">
              {clipped(label, cell - 12)}
            </text>
          </Link>
        ))}
        {categories.map(({ label, to }, category) => {
          const top = HEAD + category * ROW;
          return (
            <g key={label}>
              <Link to={to}>
                <text className="axis-label" x={0} y={top + 20}>
                  {clipped(label, side - 8)}
                </text>
              </Link>
              {series.map(({ points, label: name }, index) => {
                const point = points[category];
                const x = side + cell * index;
                if (point.count === 0)
                  return (
                    <rect key={name} className="heat-none" x={x} y={top} width={cell - 2} height={ROW - 2} />
                  );
                const words = drawn.words(category, index, point);
                return (
                  <g key={name}>
                    <Link to={drawn.to(category, index)} aria-label={words}>
                      <rect className="heat-none" x={x} y={top} width={cell - 2} height={ROW - 2} />
                      <rect
                        className="bar-segment"
                        x={x}
                        y={top}
                        width={cell - 2}
                        height={ROW - 2}
                        fill={colour}
                        fillOpacity={depth(Math.max(0, point.value ?? 0))}
                      >
                        <title>{words}</title>
                      </rect>
                    </Link>
                    <text className="axis-label drawn-over" x={x + cell - 12} y={top + 19} textAnchor="end">
                      {drawn.text(point.value)}
                    </text>
                  </g>
                );
              })}
            </g>
          );
        })}
      </svg>
    </div>
  );
}
