import { addDays, heldMovePart, type AnyRecord, type ClimbPoint } from '@zawn/core';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { useState } from 'react';
import { useSize } from '../../kernel/drawings/use-size';
import { pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { useOpening } from '../../platform/frame/opening';
import { isHeldUp } from '../guides/use-guide';
import { date, dateFormat, money } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import { climbRemarks, enteredBy, levelInWords, markInWords } from './climb-in-words';
import { useClimb, type DrawnClimb } from './use-climb';
import './climb.css';

const ROW = 25;
/** Of the touches, and of the months below them. */
const TOUCHES = 16;
const MONTHS = 16;
/** So that a line at the edge is seen whole. */
const EDGE = 6;
const DAY_MS = 86_400_000;

const dayAndMonth = dateFormat({ day: 'numeric', month: 'short' });
const month = dateFormat({ month: 'short' });

/** The months that begin within the climb, as days since its beginning. */
function monthsOf({ climb: { from, days } }: DrawnClimb, most: number): { day: number; label: string }[] {
  const start = Date.parse(`${from}T00:00:00Z`);
  const first = new Date(start);
  const all = [];
  for (let step = 1; ; step += 1) {
    const at = Date.UTC(first.getUTCFullYear(), first.getUTCMonth() + step, 1);
    const day = Math.round((at - start) / DAY_MS);
    if (day > days) break;
    all.push({ day, label: month(addDays(from, day)) });
  }
  const every = Math.ceil(all.length / Math.max(1, most));
  return all.filter((_, index) => index % every === 0);
}

/** The way of a deal through its stages, drawn to scale of time. */
function Drawing({ drawn, deal, width }: { drawn: DrawnClimb; deal: AnyRecord; width: number }) {
  const { climb, levels } = drawn;
  const isOpen = deal.outcome === 'open';
  const tops = (levels.length + 1) * ROW;
  const x = scaleLinear([0, climb.days], [EDGE, width - EDGE]);
  const y = (level: number) => tops - (level + 0.5) * ROW;
  const path = line<ClimbPoint>()
    .x(({ day }) => x(day))
    .y(({ level }) => y(level));
  const last = climb.ways.at(-1)?.at(-1);
  const closeLabel = `${isOpen ? 'close' : String(deal.outcome)} ${dayAndMonth(addDays(climb.from, climb.close))}`;
  const isAtRight = x(climb.close) > width - 90;
  return (
    <svg width={width} height={tops + TOUCHES + MONTHS} aria-hidden>
      {[...levels, 'won'].map((_, level) => (
        <line key={level} className="climb-level" x1={0} x2={width} y1={y(level)} y2={y(level)} />
      ))}
      {monthsOf(drawn, Math.floor(width / 46)).map(({ day, label }) => (
        <g key={day} className="climb-month">
          <line x1={x(day)} x2={x(day)} y1={tops + TOUCHES - 4} y2={tops + TOUCHES + 2} />
          <text x={x(day)} y={tops + TOUCHES + MONTHS - 2}>
            {label}
          </text>
        </g>
      ))}
      {climb.silence && (
        <rect
          className="climb-silence"
          x={x(climb.silence.from)}
          width={Math.max(0, x(climb.silence.until) - x(climb.silence.from))}
          y={tops + 2}
          height={TOUCHES - 7}
        />
      )}
      {climb.touches.map((day) => (
        <line
          key={day}
          className="climb-touch"
          x1={x(day)}
          x2={x(day)}
          y1={tops + 1}
          y2={tops + TOUCHES - 4}
        />
      ))}
      <line className="climb-close" x1={x(climb.close)} x2={x(climb.close)} y1={13} y2={tops} />
      <text
        className="climb-close-label"
        x={x(climb.close) + (isAtRight ? 2 : -2)}
        y={10}
        textAnchor={isAtRight ? 'end' : 'middle'}
      >
        {closeLabel}
      </text>
      {isOpen && (
        <line
          className="climb-today"
          x1={x(climb.today)}
          x2={x(climb.today)}
          y1={13}
          y2={tops + TOUCHES - 4}
        />
      )}
      {climb.ahead.length > 0 && <path className="climb-ahead" d={path(climb.ahead) ?? ''} />}
      {climb.ways.map((way, index) => (
        <path key={index} className="climb-way" d={path(way) ?? ''} />
      ))}
      {last && deal.outcome === 'lost' && (
        <path className="climb-lost" d={`M${x(last.day) - 4},${y(last.level) - 4}l8,8m0,-8l-8,8`} />
      )}
      {last && deal.outcome !== 'lost' && (
        <circle className="climb-here" cx={x(last.day)} cy={y(last.level)} r={4} />
      )}
      {climb.marks.map((mark, index) => (
        <g key={index} className={`climb-mark climb-mark-${mark.kind}`}>
          <title>{markInWords(mark, (amount) => money(amount, String(deal.currency)))}</title>
          {mark.kind === 'value' ? (
            <circle cx={x(mark.day)} cy={y(mark.level)} r={3.5} />
          ) : (
            <path d={`M${x(mark.day) - 3},${y(mark.level) - 5}l5,5l-5,5z`} />
          )}
        </g>
      ))}
    </svg>
  );
}

/**
 * A deal's life drawn to scale: time from left to right, its stages from bottom to top. Pointing at a level tells when it
 * was entered and how long it lasted; picking one moves the deal there.
 */
export function Climb({ deal, isMovable }: { deal: AnyRecord; isMovable: boolean }) {
  const { person } = useSession();
  const { open } = useOpening();
  const write = useWrite();
  const drawn = useClimb(deal);
  const [ref, { width }] = useSize();
  const [pointed, setPointed] = useState<number>();
  if (!drawn) return <div className="climb climb-waiting" />;
  const { climb, levels, history } = drawn;
  const standing = levels.findIndex(({ stage }) => stage.id === deal.stage);
  const wordsOf = (level: number) =>
    levelInWords(climb, levels, level, (at) => person(enteredBy(history, levels[at].stage.id))?.name);
  const move = (stage: number) =>
    write.mutate(
      { method: 'PATCH', path: pathOf('deal', deal.id), version: deal.version, body: { stage } },
      {
        onError: (error) => {
          if (isHeldUp(error)) open('deal', deal.id, { replace: true, part: heldMovePart(stage) });
        },
      },
    );
  const remarks = climbRemarks(climb);
  return (
    <div className="climb">
      <ol className="climb-levels" reversed aria-label="Stage" onPointerLeave={() => setPointed(undefined)}>
        <li className="climb-top">Won</li>
        {levels.toReversed().map(({ stage: { id, name, retired } }, index) => {
          const level = levels.length - 1 - index;
          const isHere = level === standing;
          return (
            <li key={id}>
              <button
                type="button"
                className={`clip ${climb.stays.some((stay) => stay.level === level) ? 'climb-been' : ''}`}
                aria-current={isHere ? 'step' : undefined}
                aria-disabled={!isMovable || isHere || retired === true}
                aria-description={wordsOf(level)}
                onPointerEnter={() => setPointed(level)}
                onFocus={() => setPointed(level)}
                onBlur={() => setPointed(undefined)}
                onClick={() => isMovable && !isHere && retired !== true && move(id)}
              >
                {name}
              </button>
            </li>
          );
        })}
      </ol>
      <div ref={ref} className="climb-drawing">
        {width > 0 && <Drawing drawn={drawn} deal={deal} width={width} />}
      </div>
      <p className="climb-words">
        {pointed === undefined && remarks.length > 0 ? (
          <span className="attention">{remarks.join(' ')}</span>
        ) : (
          (pointed ?? standing) >= 0 && wordsOf(pointed ?? standing)
        )}
      </p>
      <ul className="visually-hidden">
        {climb.marks.map((mark, index) => (
          <li key={index}>
            {markInWords(mark, (amount) => money(amount, String(deal.currency)))} on{' '}
            {date(addDays(climb.from, mark.day))}
          </li>
        ))}
      </ul>
    </div>
  );
}
