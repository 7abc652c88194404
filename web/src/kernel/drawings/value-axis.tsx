import { type ScaleLinear } from 'd3-scale';

/** Values marked along an axis; fewer where there is no room. */
export const TICKS = 5;

interface Props {
  scale: ScaleLinear<number, number>;
  /** Where the lines across begin and end. */
  from: number;
  to: number;
  text: (value: number) => string;
}

/** Values upwards, each with a line across. */
export function ValueAxis({ scale, from, to, text }: Props) {
  return scale.ticks(TICKS).map((tick) => (
    <g key={tick} className="axis">
      <line x1={from} x2={to} y1={scale(tick)} y2={scale(tick)} />
      <text x={from - 8} y={scale(tick) + 4} textAnchor="end">
        {text(tick)}
      </text>
    </g>
  ));
}
