import { useQuery } from '@tanstack/react-query';
import { type UpkeepTrend } from '@zawn/core';
import { extent } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { call } from '../../platform/api/client';
import { RECORDS } from '../../platform/api/queries';
import { date, percent } from '../../platform/frame/format';

const [WIDTH, HEIGHT, EDGE] = [120, 26, 4];

/** How ready what is within reach was over the last weeks, this one as it is now; nothing before there are two. */
export function ReadinessTrend({ ready }: { ready: number }) {
  const { data } = useQuery({
    queryKey: [RECORDS, 'upkeep trend'],
    queryFn: ({ signal }) => call<UpkeepTrend>('GET', '/upkeep/trend', { signal }),
  });
  const weeks = data?.weeks ?? [];
  if (weeks.length < 2) return null;
  // What the night kept of this week is out of date by now.
  const shares = [...weeks.slice(0, -1).map((week) => week.ready), ready];
  const [least = 0, most = 1] = extent(shares);
  const x = scaleLinear([0, shares.length - 1], [EDGE, WIDTH - EDGE]);
  const y = scaleLinear([least, most === least ? least + 0.01 : most], [HEIGHT - EDGE, EDGE]);
  const path = line<number>((_share, at) => x(at), y)(shares) ?? '';
  const first = weeks[0];
  const words = `${percent(first.ready)} in the week of ${date(first.from)}, ${percent(ready)} now`;
  return (
    <span className="readiness-trend">
      <svg
        width={WIDTH}
        height={HEIGHT}
        role="img"
        aria-label={`Week by week: ${shares.map(percent).join(', ')}`}
      >
        <path d={path} />
        <circle cx={x(shares.length - 1)} cy={y(ready)} r={3} />
      </svg>
      <span className="second">{words}</span>
    </span>
  );
}
