import { extent } from 'd3-array';
import { scaleBand, scaleLinear } from 'd3-scale';
import { movementStepNames, type MovementPart, type MovementStep } from '@zawn/core';
import { type KeyboardEvent } from 'react';
import '../../../kernel/drawings/drawings.css';
import { clipped } from '../../../kernel/drawings/bar-chart';
import { useSize, useTall } from '../../../kernel/drawings/use-size';
import { TICKS, ValueAxis } from '../../../kernel/drawings/value-axis';
import { useTheme } from '../../../platform/theme/theme';

interface Props {
  part: MovementPart;
  steps: readonly MovementStep[];
  text: (value: number) => string;
  /** The same in the fewest letters, where room is dear. */
  brief: (value: number) => string;
  open: (step: MovementStep) => void;
}

const AXIS = { left: 84, bottom: 40, top: 22 };
/** From so many pixels on a whole amount fits above a bar, and from so many a brief one beside those next to it. */
const ROOMY = 76;
const ENOUGH = 46;
/** Bars that are lower stand beside one as high: where there is little room, the amount of that is told alone. */
const LOW = 5;

/** From what was open to what is, each step from where the one before ended; every step opens its deals. */
export function MovementChart({ part, steps, text, brief, open }: Props) {
  const [come, gone] = useTheme().series(2);
  const [ref, size] = useSize();
  const { width } = size;
  const tall = useTall(size);
  const bars: { key: MovementStep | 'start' | 'end'; label: string; from: number; to: number }[] = [
    { key: 'start', label: 'Open then', from: 0, to: part.start.value },
  ];
  let level = part.start.value;
  for (const step of steps) {
    bars.push({ key: step, label: movementStepNames[step], from: level, to: level + part.steps[step].value });
    level += part.steps[step].value;
  }
  bars.push({ key: 'end', label: 'Open now', from: 0, to: part.end.value });
  const [least = 0, most = 1] = extent(bars.flatMap(({ from, to }) => [from, to]));
  const y = scaleLinear([Math.min(0, least), most || 1], [tall - AXIS.bottom, AXIS.top]).nice(TICKS);
  const x = scaleBand(
    bars.map((_, index) => index),
    [AXIS.left, Math.max(AXIS.left + 100, width)],
  ).paddingInner(0.24);
  const asKey = (run: () => void) => (event: KeyboardEvent) => {
    if (event.key !== 'Enter' && event.key !== ' ') return;
    event.preventDefault();
    run();
  };
  return (
    <div ref={ref} className="chart">
      <svg width={width} height={tall} role="group" aria-label="From what was open then to what is open">
        <ValueAxis scale={y} from={AXIS.left} to={width} text={text} />
        {bars.map(({ key, label, from, to }, index) => {
          const [low, high] = [Math.min(from, to), Math.max(from, to)];
          const left = x(index) ?? 0;
          const isWhole = key === 'start' || key === 'end';
          const value = isWhole ? to : to - from;
          const words = `${label}: ${text(value)}`;
          const next = bars.at(index + 1);
          const bar = (
            <rect
              className="bar-segment"
              x={left}
              y={y(high)}
              width={x.bandwidth()}
              height={Math.max(1, y(low) - y(high))}
              fill={isWhole ? 'var(--water)' : value >= 0 ? come : gone}
            >
              <title>{words}</title>
            </rect>
          );
          return (
            <g key={key}>
              {isWhole ? (
                bar
              ) : (
                <g
                  className="movement-step"
                  role="button"
                  tabIndex={0}
                  aria-label={words}
                  onClick={() => open(key)}
                  onKeyDown={asKey(() => open(key))}
                >
                  {bar}
                </g>
              )}
              {next && (
                <line
                  className="movement-level"
                  x1={left + x.bandwidth()}
                  x2={x(index + 1)}
                  y1={y(to)}
                  y2={y(to)}
                />
              )}
              {(x.step() >= ENOUGH || y(low) - y(high) >= LOW) && (
                <text className="axis-sum" x={left + x.bandwidth() / 2} y={y(high) - 6} textAnchor="middle">
                  {x.step() < ROOMY ? brief(value) : text(value)}
                </text>
              )}
              <text
                className="axis-label"
                x={left + x.bandwidth() / 2}
                y={tall - AXIS.bottom + 18}
                textAnchor="middle"
              >
                {clipped(label, x.step())}
              </text>
            </g>
          );
        })}
      </svg>
    </div>
  );
}
