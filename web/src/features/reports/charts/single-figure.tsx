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

const WIDTH = 260;
const HEIGHT = 56;

/** One figure set large, how it went below it, and what it was in other periods. */
export function SingleFigure({ value, label, to, trend, also }: Props) {
  const known = trend.map((each) => each ?? 0);
  const [least = 0, most = 1] = extent(known);
  const x = scaleLinear([0, Math.max(1, known.length - 1)], [2, WIDTH - 2]);
  const y = scaleLinear([Math.min(0, least), most || 1], [HEIGHT - 3, 3]);
  const path = line<number>()
    .x((_, index) => x(index))
    .y((each) => y(each))(known);
  return (
    <div className="single-figure">
      <Link to={to}>{value}</Link>
      <span className="second">{label}</span>
      {known.length > 1 && (
        <svg width={WIDTH} height={HEIGHT} aria-hidden>
          <path d={path ?? ''} className="line-path" stroke="var(--water)" />
        </svg>
      )}
      {also.map((each) => (
        <span key={each.label} className="second">
          {each.value} {each.label}
        </span>
      ))}
    </div>
  );
}
