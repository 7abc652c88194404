import { max } from 'd3-array';
import { scaleLinear, scalePoint } from 'd3-scale';
import { area, stack } from 'd3-shape';
import { Link } from 'react-router';
import { type Drawn } from '../../../kernel/drawings/drawn';
import { Legend } from '../../../kernel/drawings/legend';
import { useSize, useTall } from '../../../kernel/drawings/use-size';
import { TICKS, ValueAxis } from '../../../kernel/drawings/value-axis';
import { useTheme } from '../../../platform/theme/theme';

const AXIS = { left: 78, right: 20, bottom: 40, top: 12 };

/** Areas over the categories, one series on the other where they add up; every point of an edge opens its records. */
export function AreaChart({ drawn }: { drawn: Drawn }) {
  const colours = useTheme().series(drawn.series.length);
  const [ref, size] = useSize();
  const { width } = size;
  const tall = useTall(size);
  const { categories, series, addsUp } = drawn;
  const places = categories.map((_, index) => index);
  const valueAt = (category: number, index: number) => Math.max(0, series[index].points[category].value ?? 0);
  const layers = addsUp
    ? stack<number, number>()
        .keys(series.map((_, index) => index))
        .value(valueAt)(places)
        .map((layer) => layer.map(([from, to]) => [from, to] as const))
    : series.map((_, index) => places.map((category) => [0, valueAt(category, index)] as const));
  const x = scalePoint(places, [AXIS.left, Math.max(AXIS.left + 60, width - AXIS.right)]);
  const y = scaleLinear(
    [0, max(layers, (layer) => max(layer, ([, to]) => to)) || 1],
    [tall - AXIS.bottom, AXIS.top],
  ).nice(TICKS);
  const shape = area<readonly [number, number]>()
    .x((_, index) => x(index) ?? 0)
    .y0(([from]) => y(from))
    .y1(([, to]) => y(to));
  const everySo = Math.ceil(categories.length / Math.max(1, Math.floor((width - AXIS.left) / 84)));
  return (
    <>
      <Legend drawn={drawn} />
      <div ref={ref} className="chart">
        <svg width={width} height={tall} role="group" aria-label={drawn.label}>
          <ValueAxis scale={y} from={AXIS.left} to={width - AXIS.right} text={drawn.text} />
          {layers.map((layer, index) => (
            <path
              key={series[index].label}
              d={shape(layer) ?? ''}
              fill={colours[index % colours.length]}
              fillOpacity={addsUp || series.length === 1 ? 0.85 : 0.35}
            />
          ))}
          {layers.map((layer, index) =>
            layer.map(([, to], category) => {
              const point = series[index].points[category];
              if (point.count === 0) return null;
              const words = drawn.words(category, index, point);
              return (
                <Link key={`${index} ${category}`} to={drawn.to(category, index)} aria-label={words}>
                  <circle
                    className="line-point"
                    cx={x(category)}
                    cy={y(to)}
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
