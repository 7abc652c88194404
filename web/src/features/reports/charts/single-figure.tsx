import { extent } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { Link } from 'react-router';
import { useSize } from '../../../kernel/drawings/use-size';

interface Props {
  value: string;
  label: string;
  to: string;
  /** The same figure of one group after the other. */
  trend: readonly (number | null)[];
  /** The same in other periods. */
  also: readonly { label: string; value: string }[];
}

const WIDEST = 420;
/** Where the line of the trend begins, and how high it is: lower where a tile has less room. */
const TREND = { top: 76, height: 56, least: 18 };
/** The largest size of the figure, and about how wide a letter of it is as a part of that. */
const LARGE = 34;
const LETTER = 0.62;

const lowerFirst = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);

/** One figure set large, how it went below it, and what it was in other periods. */
export function SingleFigure({ value, label, to, trend, also }: Props) {
  const known = trend.map((each) => each ?? 0);
  const [least = 0, most = 1] = extent(known);
  const [ref, size] = useSize();
  const width = Math.min(WIDEST, size.width);
  const x = scaleLinear([0, Math.max(1, known.length - 1)], [2, width - 2]);
  const high = Math.max(TREND.least, Math.min(TREND.height, size.height - TREND.top - 12));
  const y = scaleLinear([Math.min(0, least), most || 1], [TREND.top + high - 3, TREND.top + 3]);
  const large = Math.min(LARGE, width / (value.length * LETTER));
  const path = line<number>()
    .x((_, index) => x(index))
    .y((each) => y(each))(known);
  const below = known.length > 1 ? TREND.top + high : TREND.top - 8;
  return (
    <div ref={ref} className="chart chart-rows">
      <svg width={width} height={below + 10} role="group" aria-label={`${label}: ${value}`}>
        <Link to={to} aria-label={`${label}: ${value}`}>
          <text className="figure-large" x={0} y={38} style={{ fontSize: large }}>
            {value}
          </text>
        </Link>
        <text className="axis-label" x={0} y={60}>
          {[label, ...also.map((each) => `${each.value} ${lowerFirst(each.label)}`)].join('; ')}
        </text>
        {known.length > 1 && <path d={path ?? ''} className="line-path" stroke="var(--water)" />}
      </svg>
    </div>
  );
}
