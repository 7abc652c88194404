import {
  DndContext,
  DragOverlay,
  PointerSensor,
  useDroppable,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import {
  closeDateIn,
  columnOf,
  cellKey,
  fieldOf,
  gridColumns,
  gridSums,
  type AnyRecord,
  type GridCell,
  type GridColumn,
  type GridSum,
  type Names,
  type RecordOf,
} from '@zawn/core';
import { type QueryKey } from '@tanstack/react-query';
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { isFocusLost } from '../../platform/frame/focus';
import { counted, date, monthName, shortMoney, number } from '../../platform/frame/format';
import { useOpening, useResult } from '../../platform/frame/opening';
import { useShortcuts } from '../../platform/frame/shortcuts';
import { useSession } from '../../platform/sessions/session';
import { DealStrip, type Direction } from './deal-strip';
import { useMoveDeal } from './use-move-deal';

interface Props {
  /** The sums of each cell, over all its deals. */
  cells: readonly GridCell[];
  /** The deals whose strips are shown so far, in the order that matters. */
  deals: readonly AnyRecord[];
  /** Fetches more strips of a cell. */
  more: (stage: number, column: string, shown: number) => void;
  names: Names;
  stages: readonly RecordOf<'stage'>[];
  queryKey: QueryKey;
  /** The address of the deals behind a sum. */
  listOf: (stage: number | undefined, column: GridColumn | undefined) => string;
}

function columnLabel({ key, from }: GridColumn): string {
  if (key === 'overdue') return 'Overdue';
  return key === 'later' ? 'Later' : monthName(from ?? key);
}

function Sum({ sum, to, currency }: { sum: GridSum | undefined; to: string; currency: string }) {
  const { catalogue } = useSession();
  if (!sum || sum.count === 0) return <span className="second">–</span>;
  if (!fieldOf(catalogue, 'deal', 'value'))
    return (
      <Link to={to} className="grid-sum">
        {counted(sum.count, 'deal')}
      </Link>
    );
  return (
    <Link to={to} className="grid-sum" title={`${sum.count} deals, plain and weighted`}>
      <b>{shortMoney(sum.value, currency)}</b>
      <span>{shortMoney(sum.weighted, currency)}</span>
    </Link>
  );
}

function Cell({ id, isOverdue, children }: { id: string; isOverdue: boolean; children: ReactNode }) {
  const { setNodeRef, isOver } = useDroppable({ id, disabled: isOverdue });
  return (
    <div
      ref={setNodeRef}
      className={`grid-cell ${isOverdue ? 'grid-overdue' : ''} ${isOver ? 'grid-over' : ''}`}
      data-cell={id}
    >
      {children}
    </div>
  );
}

/** The deal whose strip has the focus; not a number when none has. */
const focusedDeal = () => Number(document.activeElement?.closest<HTMLElement>('[data-deal]')?.dataset.deal);

const focusStrip = (id: number | undefined) =>
  document.querySelector<HTMLElement>(`[data-deal="${id}"] .strip-main`)?.focus();

/** Open deals by stage and expected close month, with sums on both edges; the last stage stands on top. */
export function DealGrid({ cells, deals, more, names, stages, queryKey, listOf }: Props) {
  const { today, organisation } = useSession();
  const { currency } = organisation;
  const { open } = useOpening();
  const { setResult } = useResult();
  const move = useMoveDeal(queryKey);
  const [dragged, setDragged] = useState<number>();
  const moved = useRef<number>(undefined);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));

  const grid = useMemo(() => {
    const columns = gridColumns(today);
    const shown = new Map<string, AnyRecord[]>();
    for (const deal of deals) {
      const key = cellKey(Number(deal.stage), columnOf(String(deal.closeOn), columns).key);
      shown.set(key, [...(shown.get(key) ?? []), deal]);
    }
    const ids = stages.map(({ id }) => id);
    return { columns, shown, ...gridSums(cells, ids, columns) };
  }, [cells, deals, stages, today]);
  const rising = useMemo(() => [...stages].reverse(), [stages]);
  const order = useMemo(
    () =>
      rising
        .flatMap(({ id }) => grid.columns.flatMap(({ key }) => grid.shown.get(cellKey(id, key)) ?? []))
        .map(({ id }) => id),
    [rising, grid],
  );
  useEffect(() => {
    const places = new Map(order.map((id, place) => [id, place]));
    // Those of cells that were not looked into are not walked through.
    setResult({
      object: 'deal',
      count: order.length,
      placeOf: (id) => places.get(id),
      idAt: (place) => order.at(place),
    });
    return () => setResult(undefined);
  }, [order, setResult]);

  useEffect(() => {
    // A moved strip is a new element in another cell; the keyboard goes along with it, until the person goes elsewhere.
    if (moved.current === undefined) return;
    if (isFocusLost()) focusStrip(moved.current);
    else if (focusedDeal() !== moved.current) moved.current = undefined;
  }, [grid]);
  const step = (by: number) => {
    const at = order.indexOf(focusedDeal());
    focusStrip(order[Math.min(Math.max(at + by, 0), order.length - 1)]);
  };
  useShortcuts('Deal grid', [
    { keys: 'j', does: 'Next deal', run: () => step(1) },
    { keys: 'k', does: 'Deal before', run: () => step(-1) },
    { keys: '↑ ↓ ← →', does: 'Move the deal: stage, close month', run: () => undefined },
  ]);

  const place = (deal: AnyRecord, stage: RecordOf<'stage'> | undefined, column: GridColumn | undefined) => {
    if (!stage || !column) return;
    const closeOn = closeDateIn(column, String(deal.closeOn), grid.columns);
    if (closeOn === undefined || (stage.id === deal.stage && closeOn === deal.closeOn)) return;
    const where = [
      stage.id !== deal.stage && stage.name,
      closeOn !== deal.closeOn && `closes ${date(closeOn)}`,
    ];
    move.mutate({
      id: deal.id,
      changes: { stage: stage.id, closeOn },
      words: `${String(deal.name)}: ${where.filter(Boolean).join(', ')}`,
    });
  };
  const shift = (deal: AnyRecord, direction: Direction) => {
    const stageAt = stages.findIndex(({ id }) => id === deal.stage);
    const columnAt = grid.columns.indexOf(columnOf(String(deal.closeOn), grid.columns));
    const stageStep = direction === 'up' ? 1 : direction === 'down' ? -1 : 0;
    const columnStep = direction === 'right' ? 1 : direction === 'left' ? -1 : 0;
    moved.current = deal.id;
    place(deal, stages[stageAt + stageStep], grid.columns[columnAt + columnStep]);
  };
  const drop = ({ active, over }: DragEndEvent) => {
    setDragged(undefined);
    const deal = deals.find(({ id }) => id === active.id);
    if (!deal || !over) return;
    const [stage, column] = String(over.id).split('|');
    moved.current = deal.id;
    place(
      deal,
      stages.find(({ id }) => id === Number(stage)),
      grid.columns.find(({ key }) => key === column),
    );
  };
  const draggedDeal = deals.find(({ id }) => id === dragged);

  return (
    <DndContext
      sensors={sensors}
      onDragStart={({ active }) => setDragged(Number(active.id))}
      onDragEnd={drop}
      onDragCancel={() => setDragged(undefined)}
    >
      <div className="grid" role="group" aria-label="Deals by stage and expected close">
        <div className="grid-row grid-head">
          <div />
          {grid.columns.map((column) => (
            <div
              key={column.key}
              className={
                column.key === 'overdue' && (grid.byColumn.get('overdue')?.count ?? 0) > 0
                  ? 'attention late'
                  : ''
              }
            >
              {columnLabel(column)}
            </div>
          ))}
          <div className="figure">In stage</div>
        </div>
        {rising.map((stage) => (
          <div key={stage.id} className="grid-row">
            <div className="grid-stage">
              <b>{stage.name}</b>
              <span className="second">{stage.probability} %</span>
            </div>
            {grid.columns.map((column) => {
              const id = cellKey(stage.id, column.key);
              const strips = grid.shown.get(id) ?? [];
              const left = (grid.byCell.get(id)?.count ?? 0) - strips.length;
              return (
                <Cell key={column.key} id={id} isOverdue={column.key === 'overdue'}>
                  {strips.map((record) => (
                    <DealStrip
                      key={record.id}
                      deal={record}
                      accountName={names.account?.[Number(record.account)]}
                      onOpen={() => open('deal', record.id)}
                      onMove={(direction) => shift(record, direction)}
                      onClose={() => open('deal', record.id, { part: 'close' })}
                    />
                  ))}
                  {left > 0 && (
                    <button
                      type="button"
                      className="link-button grid-more"
                      onClick={() => more(stage.id, column.key, strips.length)}
                    >
                      + {number(left)} more
                    </button>
                  )}
                </Cell>
              );
            })}
            <div className="figure">
              <Sum sum={grid.byStage.get(stage.id)} to={listOf(stage.id, undefined)} currency={currency} />
            </div>
          </div>
        ))}
        <div className="grid-row grid-foot">
          <div className="second">
            Open
            <br />
            weighted
          </div>
          {grid.columns.map((column) => (
            <div key={column.key}>
              <Sum sum={grid.byColumn.get(column.key)} to={listOf(undefined, column)} currency={currency} />
            </div>
          ))}
          <div className="figure">
            <Sum sum={grid.total} to={listOf(undefined, undefined)} currency={currency} />
          </div>
        </div>
      </div>
      <DragOverlay dropAnimation={null}>
        {draggedDeal && (
          <div className="strip strip-carried">
            <div className="strip-main">
              <b className="clip">{names.account?.[Number(draggedDeal.account)] ?? draggedDeal.name}</b>
            </div>
          </div>
        )}
      </DragOverlay>
    </DndContext>
  );
}
