import { type DrawingStyle } from '@zawn/core';
import { scaleLinear } from 'd3-scale';
import { Link } from 'react-router';
import { useSize } from '../../../kernel/drawings/use-size';
import { percent } from '../../../platform/frame/format';

interface Props {
  value: number | null;
  target: number | undefined;
  text: (value: number | null) => string;
  label: string;
  to: string;
  /** Where the channel begins and ends. */
  style?: DrawingStyle | undefined;
}

const HEIGHT = 96;
const CHANNEL = { top: 50, height: 16 };
const WIDEST = 680;

/** How far a figure has come towards its target: a channel that fills, with a mark where it is to reach. */
export function GaugeChart({ value, target, text, label, to, style }: Props) {
  const [ref, size] = useSize();
  const width = Math.min(WIDEST, size.width);
  const { from = 0, to: end = Math.max(target ?? 0, value ?? 0) || 1 } = style ?? {};
  const x = scaleLinear([from, Math.max(end, from + 1e-9)], [0, width - 2]).clamp(true);
  const against =
    target === undefined
      ? 'Say a target in the sentence to measure it against.'
      : `${text(target)} to reach${target > 0 && value !== null ? `, ${percent(value / target)} of it` : ''}`;
  return (
    <div ref={ref} className="chart chart-rows">
      <svg width={width} height={HEIGHT} role="group" aria-label={`${label}: ${text(value)}. ${against}`}>
        <Link to={to} aria-label={`${text(value)} ${label}`}>
          <text className="figure-large" x={0} y={34}>
            {text(value)}
            <tspan className="axis-label" dx={12}>
              {label}
            </tspan>
          </text>
        </Link>
        <rect className="gauge-channel" x={0} y={CHANNEL.top} width={width} height={CHANNEL.height} />
        <rect
          className="gauge-water"
          x={0}
          y={CHANNEL.top}
          width={x(value ?? from)}
          height={CHANNEL.height}
        />
        {target !== undefined && (
          <rect
            className="gauge-mark"
            x={Math.max(0, x(target) - 2)}
            y={CHANNEL.top - 4}
            width={3}
            height={CHANNEL.height + 8}
          />
        )}
        <text className="axis-label" x={0} y={HEIGHT - 8}>
          {against}
        </text>
      </svg>
    </div>
  );
}
