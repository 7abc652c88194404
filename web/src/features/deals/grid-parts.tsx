import { useDroppable } from '@dnd-kit/core';
import {
  fieldOf,
  type AnyRecord,
  type GridColumn,
  type GridSum,
  type GridSums,
  type RecordOf,
} from '@zawn/core';
import { type ReactNode } from 'react';
import { Link } from 'react-router';
import { counted, monthName, number, shortMoney } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';

export type Stage = RecordOf<'stage'>;

/** The open deals of a pipeline as they are laid out, whatever the arrangement. */
export interface Layout extends GridSums {
  /** From the first stage on. */
  stages: readonly Stage[];
  columns: readonly GridColumn[];
  /** The deals shown of each cell, by its key. */
  shown: ReadonlyMap<string, readonly AnyRecord[]>;
}

/** How the parts of a layout are drawn and what they lead to. */
export interface Drawn {
  strip: (deal: AnyRecord) => ReactNode;
  /** Fetches more strips of a cell. */
  more: (stage: number, column: string, shown: number) => void;
  /** The address of the deals behind a sum. */
  listOf: (stage: number | undefined, column: GridColumn | undefined) => string;
}

/** What a column is called: a month, or what lies before and after the months. */
export function columnLabel({ key, from }: GridColumn): string {
  if (key === 'overdue') return 'Overdue';
  return key === 'later' ? 'Later' : monthName(from ?? key);
}

/** The deals of a stage, a month or all together, plain and weighted; how many where amounts are hidden. */
export function Sum({ sum, to }: { sum: GridSum | undefined; to: string }) {
  const { catalogue, organisation } = useSession();
  if (!sum || sum.count === 0) return <span className="second">–</span>;
  if (!fieldOf(catalogue, 'deal', 'value'))
    return (
      <Link to={to} className="grid-sum">
        {counted(sum.count, 'deal')}
      </Link>
    );
  return (
    <Link to={to} className="grid-sum" title={`${sum.count} deals, plain and weighted`}>
      <b>{shortMoney(sum.value, organisation.currency)}</b>
      <span>{shortMoney(sum.weighted, organisation.currency)}</span>
    </Link>
  );
}

interface CellProps {
  id: string;
  /** Where nothing can be moved to. */
  isClosed?: boolean;
  className: string;
  children?: ReactNode;
}

/** A place that a deal can be dropped on. */
export function Cell({ id, isClosed = false, className, children }: CellProps) {
  const { setNodeRef, isOver } = useDroppable({ id, disabled: isClosed });
  return (
    <div ref={setNodeRef} className={`${className} ${isOver ? 'grid-over' : ''}`} data-cell={id}>
      {children}
    </div>
  );
}

/** The strips of a cell, and how many more there are. */
export function Strips({
  layout,
  drawn,
  stage,
  column,
  cell,
}: {
  layout: Layout;
  drawn: Drawn;
  stage: number;
  column: string;
  cell: string;
}) {
  const strips = layout.shown.get(cell) ?? [];
  const left = (layout.byCell.get(cell)?.count ?? 0) - strips.length;
  return (
    <>
      {strips.map(drawn.strip)}
      {left > 0 && (
        <button
          type="button"
          className="link-button grid-more"
          onClick={() => drawn.more(stage, column, strips.length)}
        >
          + {number(left)} more
        </button>
      )}
    </>
  );
}
