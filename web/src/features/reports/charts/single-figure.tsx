import { extent } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { Link } from 'react-router';

interface Props {
  value: string;
  label: string;
  to: string;
  /** The same figure of one group after the other. */
  trend: readonly (number | null)[];
  /** The same in other periods. */
  also: readonly { label: string; value: string }[];
}

const WIDTH = 420;
const TREND = { top: 76, height: 56 };
const LINE = 20;

/** One figure set large, how it went below it, and what it was in other periods. */
export function SingleFigure({ value, label, to, trend, also }: Props) {
  const known = trend.map((each) => each ?? 0);
  const [least = 0, most = 1] = extent(known);
  const x = scaleLinear([0, Math.max(1, known.length - 1)], [2, WIDTH - 2]);
  const y = scaleLinear([Math.min(0, least), most || 1], [TREND.top + TREND.height - 3, TREND.top + 3]);
  const path = line<number>()
    .x((_, index) => x(index))
    .y((each) => y(each))(known);
  const below = known.length > 1 ? TREND.top + TREND.height : TREND.top - 8;
  return (
    <svg
      width={WIDTH}
      height={below + 10 + also.length * LINE}
      role="group"
      aria-label={`${label}: ${value}`}
    >
      <Link to={to} aria-label={`${label}: ${value}`}>
        <text className="figure-large" x={0} y={38}>
          {value}
        </text>
      </Link>
      <text className="axis-label" x={0} y={60}>
        {label}
      </text>
      {known.length > 1 && <path d={path ?? ''} className="line-path" stroke="var(--water)" />}
      {also.map((each, index) => (
        <text key={each.label} className="axis-label" x={0} y={below + (index + 1) * LINE}>
          {`${each.value} ${each.label}`}
        </text>
      ))}
    </svg>
  );
}
