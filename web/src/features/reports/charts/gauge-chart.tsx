import { Link } from 'react-router';
import { percent } from '../../../platform/frame/format';

interface Props {
  value: number | null;
  target: number | undefined;
  text: (value: number | null) => string;
  label: string;
  to: string;
}

/** How far a figure has come towards its target: a channel that fills, with a mark where it is to reach. */
export function GaugeChart({ value, target, text, label, to }: Props) {
  const whole = Math.max(target ?? 0, value ?? 0) || 1;
  const reached = Math.max(0, value ?? 0) / whole;
  return (
    <div className="gauge">
      <p className="gauge-figure">
        <Link to={to}>{text(value)}</Link> <span className="second">{label}</span>
      </p>
      <div
        className="gauge-channel"
        role="meter"
        aria-label={label}
        aria-valuemin={0}
        aria-valuemax={target ?? whole}
        aria-valuenow={value ?? 0}
        aria-valuetext={`${text(value)}${target === undefined ? '' : ` of ${text(target)}`}`}
      >
        <span style={{ width: `${reached * 100}%` }} />
        {target !== undefined && <i style={{ left: `${(target / whole) * 100}%` }} />}
      </div>
      <p className="second">
        {target === undefined
          ? 'Say a target in the sentence to measure it against.'
          : `${text(target)} to reach${target > 0 && value !== null ? `, ${percent(value / target)} of it` : ''}`}
      </p>
    </div>
  );
}
