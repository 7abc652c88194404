import { Link } from 'react-router';
import { clipped } from '../../../kernel/drawings/bar-chart';
import { type Drawn } from '../../../kernel/drawings/drawn';
import { Legend } from '../../../kernel/drawings/legend';
import { useSize } from '../../../kernel/drawings/use-size';
import { percent } from '../../../platform/frame/format';
import { useTheme } from '../../../platform/theme/theme';

const BAR = 30;
const GAP = 8;
const SIDE = 160;
const NAME = 26;

interface Part {
  name: string;
  value: number;
  words: string;
  to: string;
  text: string;
}

/** What each part has of the whole: a bar cut into its series for each category, or one cut into the categories. */
export function ShareChart({ drawn }: { drawn: Drawn }) {
  const { categories, series } = drawn;
  const isSplit = series.length > 1;
  const colours = useTheme().series(isSplit ? series.length : categories.length);
  const [ref, { width }] = useSize();
  const partOf = (category: number, index: number, name: string): Part => {
    const point = series[index].points[category];
    return {
      name,
      value: Math.max(0, point.value ?? 0),
      words: drawn.words(category, index, point),
      to: drawn.to(category, index),
      text: drawn.text(point.value),
    };
  };
  const bars: { label: string; to: string; parts: Part[] }[] = isSplit
    ? categories.map(({ label, to }, category) => ({
        label,
        to,
        parts: series.map(({ label: name }, index) => partOf(category, index, name)),
      }))
    : [
        {
          label: '',
          to: series[0].to,
          parts: categories.map(({ label }, category) => partOf(category, 0, label)),
        },
      ];
  const side = isSplit ? Math.min(SIDE, width * 0.3) : 0;
  const whole = (parts: readonly Part[]) => parts.reduce((sum, { value }) => sum + value, 0);
  // Without a legend of series the parts are named below the bar, in two columns where there is room.
  const columns = width > 640 ? 2 : 1;
  const lines = isSplit ? 0 : Math.ceil(categories.length / columns);
  const barsHeight = bars.length * (BAR + GAP);
  const height = barsHeight + lines * NAME;
  const column = width / columns;
  return (
    <>
      <Legend drawn={drawn} />
      <div ref={ref} className="chart chart-rows">
        <svg width={width} height={height} role="group" aria-label={drawn.label}>
          {bars.map(({ label, to, parts }, row) => {
            const all = whole(parts) || 1;
            let from = side;
            return (
              <g key={label}>
                {isSplit && (
                  <Link to={to}>
                    <text className="axis-label" x={0} y={row * (BAR + GAP) + BAR / 2 + 4}>
                      {clipped(label, side - 8)}
                    </text>
                  </Link>
                )}
                {parts.map((part, index) => {
                  const wide = (part.value / all) * (width - side);
                  const x = from;
                  from += wide;
                  if (wide === 0) return null;
                  const words = `${part.words}, ${percent(part.value / all)}`;
                  return (
                    <Link key={part.name} to={part.to} aria-label={words}>
                      <rect
                        className="bar-segment"
                        x={x}
                        y={row * (BAR + GAP)}
                        width={Math.max(1, wide - 1)}
                        height={BAR}
                        fill={colours[index % colours.length]}
                      >
                        <title>{words}</title>
                      </rect>
                    </Link>
                  );
                })}
              </g>
            );
          })}
          {!isSplit &&
            bars[0].parts.map((part, index) => {
              const x = Math.floor(index / lines) * column;
              const y = barsHeight + (index % lines) * NAME + 16;
              return (
                <g key={part.name}>
                  <rect
                    x={x}
                    y={y - 10}
                    width={11}
                    height={11}
                    rx={2}
                    fill={colours[index % colours.length]}
                  />
                  <Link to={part.to}>
                    <text className="axis-label" x={x + 20} y={y}>
                      {clipped(part.name, column - 190)}
                    </text>
                  </Link>
                  <text className="axis-sum" x={x + column - 72} y={y} textAnchor="end">
                    {part.text}
                  </text>
                  <text className="axis-label" x={x + column - 24} y={y} textAnchor="end">
                    {percent(part.value / (whole(bars[0].parts) || 1))}
                  </text>
                </g>
              );
            })}
        </svg>
      </div>
    </>
  );
}
