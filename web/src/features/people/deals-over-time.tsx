import { inLanes, type AnyRecord, type Day } from '@zawn/core';
import { scaleTime } from 'd3-scale';
import { useSize } from '../../kernel/drawings/use-size';
import { briefMoney, date } from '../../platform/frame/format';
import { useOpening } from '../../platform/frame/opening';

const LANE = 19;
const BAR = 11;
const TOP = 20;
const MONTH_MS = 30 * 86_400_000;
/** Lanes shown; deals beyond them are counted. */
const MOST_LANES = 9;

const noonOf = (day: Day) => Date.parse(`${day}T12:00:00Z`);

/** Every deal of an account as a bar from its beginning to its end: what was won, what was lost, what is open. */
export function DealsOverTime({ deals, today }: { deals: readonly AnyRecord[]; today: Day }) {
  const [ref, { width }] = useSize();
  const { open } = useOpening();
  const now = noonOf(today);
  const all = inLanes(deals, MONTH_MS);
  const spans = all.filter(({ lane }) => lane < MOST_LANES);
  const lanes = Math.min(MOST_LANES, Math.max(1, ...spans.map(({ lane }) => lane + 1)));
  const first = Math.min(now - 6 * MONTH_MS, ...spans.map(({ from }) => from));
  const last = Math.max(now + MONTH_MS, ...spans.map(({ to }) => to));
  const scale = scaleTime([first, last], [0, Math.max(0, width - 8)]);
  const height = TOP + lanes * LANE + 4;
  return (
    <div ref={ref} className="deals-over-time">
      {width > 0 && (
        <svg width={width} height={height} role="group" aria-label="Deals over time">
          {scale.ticks(Math.max(2, Math.floor(width / 110))).map((tick) => (
            <g key={tick.getTime()} className="axis">
              <line x1={scale(tick)} x2={scale(tick)} y1={TOP - 5} y2={height} />
              <text x={scale(tick)} y={11}>
                {tick.toLocaleDateString('en-GB', { month: 'short', year: '2-digit', timeZone: 'UTC' })}
              </text>
            </g>
          ))}
          <line className="now" x1={scale(now)} x2={scale(now)} y1={TOP - 8} y2={height} />
          {spans.map(({ deal, from, to, lane }) => {
            const x = scale(from);
            const long = Math.max(5, scale(to) - x);
            const y = TOP + lane * LANE;
            const value = briefMoney(Number(deal.value), String(deal.currency));
            const ended = deal.outcome === 'open' ? 'expected' : String(deal.outcome);
            return (
              <g
                key={deal.id}
                className={`span span-${String(deal.outcome)}`}
                role="button"
                tabIndex={0}
                aria-label={`${String(deal.name)}, ${value}, ${ended} ${date(String(deal.closedOn ?? deal.closeOn))}`}
                onClick={() => open('deal', deal.id)}
                onKeyDown={(event) => event.key === 'Enter' && open('deal', deal.id)}
              >
                <title>{`${String(deal.name)}: ${value}`}</title>
                <rect x={x} y={y} width={long} height={BAR} rx={2} />
                {long > 46 && (
                  <text x={x + 5} y={y + BAR - 2}>
                    {value}
                  </text>
                )}
              </g>
            );
          })}
        </svg>
      )}
      {all.length > spans.length && (
        <p className="second">and {all.length - spans.length} more, not drawn for lack of room</p>
      )}
    </div>
  );
}
