import { extent } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { Link } from 'react-router';
import { useSize, useTall } from '../../../kernel/drawings/use-size';
import { TICKS, ValueAxis } from '../../../kernel/drawings/value-axis';
import { useTheme } from '../../../platform/theme/theme';

interface Axis {
  label: string;
  text: (value: number) => string;
}

interface Props {
  points: readonly { label: string; x: number | null; y: number | null; to: string }[];
  x: Axis;
  y: Axis;
}

const AXIS = { left: 78, right: 90, bottom: 48, top: 22 };

/** About as wide as a letter of a name is. */
const LETTER = 6.6;
const LINE = 14;

interface Placed {
  x: number;
  y: number;
  label: string;
}

/** On which side of each point its name stands without lying over another; on none where both are taken. */
function sidesOf(points: readonly Placed[]): ('right' | 'left' | undefined)[] {
  const taken: { from: number; to: number; y: number }[] = points.map(({ x, y }) => ({
    from: x - 7,
    to: x + 7,
    y,
  }));
  return points.map(({ x, y, label }) => {
    const width = label.length * LETTER;
    for (const side of ['right', 'left'] as const) {
      const from = side === 'right' ? x + 8 : x - 8 - width;
      const to = from + width;
      if (from < 0 || taken.some((each) => each.from < to && each.to > from && Math.abs(each.y - y) < LINE))
        continue;
      taken.push({ from, to, y });
      return side;
    }
    return undefined;
  });
}

/** A point for each group, one figure across and one up; each carries its name and opens its records. */
export function ScatterChart({ points, x, y }: Props) {
  const [colour] = useTheme().series(1);
  const [ref, size] = useSize();
  const { width } = size;
  const tall = useTall(size);
  const known = points.filter((point): point is Props['points'][number] & { x: number; y: number } => {
    return point.x !== null && point.y !== null;
  });
  const span = (values: number[]): [number, number] => {
    const [least = 0, most = 1] = extent(values);
    return [Math.min(0, least), most || 1];
  };
  const across = scaleLinear(span(known.map((point) => point.x)), [
    AXIS.left,
    Math.max(AXIS.left + 60, width - AXIS.right),
  ]).nice(TICKS);
  const up = scaleLinear(span(known.map((point) => point.y)), [tall - AXIS.bottom, AXIS.top]).nice(TICKS);
  const sides = sidesOf(known.map((point) => ({ x: across(point.x), y: up(point.y), label: point.label })));
  return (
    <div ref={ref} className="chart">
      <svg width={width} height={tall} role="group" aria-label={`${y.label} by ${x.label}`}>
        <ValueAxis scale={up} from={AXIS.left} to={width - AXIS.right} text={y.text} />
        {across.ticks(TICKS).map((tick) => (
          <g key={tick} className="axis">
            <text x={across(tick)} y={tall - AXIS.bottom + 18} textAnchor="middle">
              {x.text(tick)}
            </text>
          </g>
        ))}
        <text className="axis-label" x={AXIS.left} y={12}>
          {y.label}
        </text>
        <text className="axis-label" x={width - AXIS.right} y={tall - 8} textAnchor="end">
          {x.label}
        </text>
        {known.map((point, index) => {
          const side = sides[index];
          const words = `${point.label}: ${x.label} ${x.text(point.x)}, ${y.label} ${y.text(point.y)}`;
          return (
            <g key={point.label}>
              <Link to={point.to} aria-label={words}>
                <circle className="line-point" cx={across(point.x)} cy={up(point.y)} r={6} fill={colour}>
                  <title>{words}</title>
                </circle>
              </Link>
              {side && (
                <text
                  className="axis-label drawn-over"
                  x={across(point.x) + (side === 'right' ? 10 : -10)}
                  y={up(point.y) + 4}
                  textAnchor={side === 'right' ? 'start' : 'end'}
                >
                  {point.label}
                </text>
              )}
            </g>
          );
        })}
      </svg>
    </div>
  );
}
