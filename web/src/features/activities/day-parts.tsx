import { GripVertical } from 'lucide-react';
import { type ReactNode } from 'react';
import { Link } from 'react-router';
import { number } from '../../platform/frame/format';
import type * as SortableDay from './sortable-day';

/** Something to do, dealt with where it stands. */
export interface DayLine {
  /** What it is called where the day is put in order: `activity-12`, `touch-3`. */
  line: string;
  /** @param grip what it is dragged by; nothing where it keeps its place. */
  draw: (grip?: ReactNode) => ReactNode;
}

/** What belongs together in a day, such as what is overdue. */
export interface DayPart {
  title: string;
  /** How many there are; the lines may be the first of them. */
  count: number | undefined;
  /** The address of all of them. */
  to?: string;
  lines: readonly DayLine[];
  /** What is said where there are none; without it the part is left out then. */
  nothing?: string;
  /** Whether its lines can be put in another order. */
  isOrdered?: boolean;
}

const Grip = ({ onReach }: { onReach: () => void }) => (
  <span className="work-grip" onPointerEnter={onReach} aria-hidden>
    <GripVertical size={14} />
  </span>
);

/** What drags lines. */
export type Sorting = typeof SortableDay;

interface Props {
  part: DayPart;
  /** Nothing until somebody reached for a grip. */
  sorting?: Sorting | undefined;
  /** Somebody reaches for the grip of a line. */
  onReach: () => void;
}

/** A part of the day with its lines. */
export function DayPartLines({ part, sorting, onReach }: Props) {
  const { title, count, to, lines, nothing, isOrdered = false } = part;
  if (lines.length === 0 && !nothing) return null;
  const figure = count ? number(count) : '';
  const drawn = ({ line, draw }: DayLine) => {
    if (!isOrdered) return draw();
    if (!sorting) return draw(<Grip onReach={onReach} />);
    return <sorting.SortableLine key={line} line={line} draw={draw} />;
  };
  return (
    <section className="work-section" aria-label={title}>
      <h2 className={title === 'Overdue' ? 'attention late' : ''}>
        {title}{' '}
        {to ? (
          <Link className="second" to={to}>
            {figure}
          </Link>
        ) : (
          <span className="second">{figure}</span>
        )}
      </h2>
      {lines.length === 0 && <p className="second work-nothing">{nothing}</p>}
      <ul>{lines.map(drawn)}</ul>
    </section>
  );
}
