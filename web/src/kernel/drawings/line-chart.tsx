import { max, min } from 'd3-array';
import { scaleLinear, scalePoint } from 'd3-scale';
import { line } from 'd3-shape';
import { Link } from 'react-router';
import { useTheme } from '../../platform/theme/theme';
import { type Drawn } from './drawn';
import { Legend } from './legend';
import { useSize, useTall } from './use-size';
import { TICKS, ValueAxis } from './value-axis';

const AXIS = { left: 78, right: 20, bottom: 46, top: 16 };

/** Categories along the axis, a line a series; every point opens its records. */
export function LineChart({ drawn, target }: { drawn: Drawn; target?: number | undefined }) {
  const colours = useTheme().series(drawn.series.length);
  const [ref, size] = useSize();
  const { width } = size;
  const tall = useTall(size);
  const { categories, series } = drawn;
  const values = series.flatMap(({ points }) => points.map(({ value }) => value ?? 0));
  const x = scalePoint(
    categories.map((_, index) => index),
    [AXIS.left, Math.max(AXIS.left + 60, width - AXIS.right)],
  ).padding(0.3);
  const { from, to: end } = drawn.style ?? {};
  const y = scaleLinear(
    [from ?? Math.min(0, min(values) ?? 0), end ?? (Math.max(max(values) ?? 0, target ?? 0) || 1)],
    [tall - AXIS.bottom, AXIS.top],
  ).clamp(from !== undefined || end !== undefined);
  if (end === undefined) y.nice(TICKS);
  const everySo = Math.ceil(categories.length / Math.max(1, Math.floor((width - AXIS.left) / 84)));
  return (
    <>
      <Legend drawn={drawn} />
      <div ref={ref} className="chart">
        <svg width={width} height={tall} role="group" aria-label={drawn.label}>
          <ValueAxis scale={y} from={AXIS.left} to={width - AXIS.right} text={drawn.text} />
          {target !== undefined && (
            <line
              className="target-line"
              x1={AXIS.left}
              x2={width - AXIS.right}
              y1={y(target)}
              y2={y(target)}
            >
              <title>{`Target: ${drawn.text(target)}`}</title>
            </line>
          )}
          {series.map(({ points, label }, index) => {
            const path = line<number>()
              .x((_, category) => x(category) ?? 0)
              .y((value) => y(value))(points.map(({ value }) => value ?? 0));
            return (
              <path
                key={label}
                d={path ?? ''}
                className="line-path"
                stroke={colours[index % colours.length]}
              />
            );
          })}
          {series.map(({ points }, index) =>
            points.map((point, category) => {
              if (point.count === 0) return null;
              const words = drawn.words(category, index, point);
              return (
                <Link key={`${index} ${category}`} to={drawn.to(category, index)} aria-label={words}>
                  <circle
                    className="line-point"
                    cx={x(category)}
                    cy={y(point.value ?? 0)}
                    r={4}
                    fill={colours[index % colours.length]}
                  >
                    <title>{words}</title>
                  </circle>
                </Link>
              );
            }),
          )}
          {categories.map(({ label, to }, category) =>
            category % everySo === 0 ? (
              <Link key={category} to={to}>
                <text className="axis-label" x={x(category)} y={tall - AXIS.bottom + 20} textAnchor="middle">
                  {label}
                </text>
              </Link>
            ) : null,
          )}
        </svg>
      </div>
    </>
  );
}
