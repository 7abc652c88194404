import {
  DndContext,
  DragOverlay,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import {
  closeDateIn,
  columnOf,
  cellKey,
  gridColumns,
  gridSums,
  heldMovePart,
  type AnyRecord,
  type GridCell,
  type GridColumn,
  type Names,
  type RecordOf,
} from '@zawn/core';
import { type QueryKey } from '@tanstack/react-query';
import { Button } from 'antd';
import { useEffect, useMemo, useRef, useState } from 'react';
import { isFocusLost } from '../../platform/frame/focus';
import { counted, date } from '../../platform/frame/format';
import { useOpening, useResult } from '../../platform/frame/opening';
import { useShortcuts } from '../../platform/frame/shortcuts';
import { useSession } from '../../platform/sessions/session';
import { usePhone } from '../../platform/frame/use-phone';
import { DealStrip, type Direction } from './deal-strip';
import { type Drawn, type Layout } from './grid-parts';
import { MonthGrid } from './month-grid';
import { OneStage } from './one-stage';
import { KEEPS_DATE, StageColumns } from './stage-columns';
import { useMoveDeals, type Move } from './use-move-deal';

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
  arrangement: Arrangement;
}

/** Stages rising over the months, or side by side. */
export type Arrangement = 'months' | 'stages';

/** The deal whose strip has the focus; not a number when none has. */
const focusedDeal = () => Number(document.activeElement?.closest<HTMLElement>('[data-deal]')?.dataset.deal);

const focusStrip = (id: number | undefined) =>
  document.querySelector<HTMLElement>(`[data-deal="${id}"] .strip-main`)?.focus();

/** Open deals by stage and expected close month, with sums on both edges; the last stage stands on top. */
export function DealGrid({ cells, deals, more, names, stages, queryKey, listOf, arrangement }: Props) {
  const { today } = useSession();
  const isPhone = usePhone();
  const isByMonth = arrangement === 'months' && !isPhone;
  const { open } = useOpening();
  const { setResult } = useResult();
  // What holds it up is answered on its sheet.
  const move = useMoveDeals(queryKey, ({ id, changes }) =>
    open('deal', id, { part: heldMovePart(changes.stage, changes.closeOn) }),
  );
  const [marked, setMarked] = useState<ReadonlySet<number>>(new Set());
  const [dragged, setDragged] = useState<number>();
  const moved = useRef<number>(undefined);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));

  const grid = useMemo((): Layout => {
    const columns = gridColumns(today);
    const shown = new Map<string, AnyRecord[]>();
    for (const deal of deals) {
      const key = cellKey(Number(deal.stage), columnOf(String(deal.closeOn), columns).key);
      shown.set(key, [...(shown.get(key) ?? []), deal]);
    }
    const ids = stages.map(({ id }) => id);
    return { stages, columns, shown, ...gridSums(cells, ids, columns) };
  }, [cells, deals, stages, today]);
  // As they stand on the page: with the months, the last stage is on top.
  const inOrder = useMemo(() => (isByMonth ? stages.toReversed() : stages), [isByMonth, stages]);
  const order = useMemo(
    () =>
      inOrder
        .flatMap(({ id }) => grid.columns.flatMap(({ key }) => grid.shown.get(cellKey(id, key)) ?? []))
        .map(({ id }) => id),
    [inOrder, grid],
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
  const toggle = (id: number) =>
    setMarked(
      (before) => new Set([...before].filter((each) => each !== id).concat(before.has(id) ? [] : [id])),
    );
  // Those that are not in the grid any more are not moved with the others.
  const markedDeals = deals.filter(({ id }) => marked.has(id));
  /** The deal that is moved, and where it is marked all that are. */
  const withMarked = (deal: AnyRecord) => (marked.has(deal.id) ? markedDeals : [deal]);
  const step = (by: number) => {
    const at = order.indexOf(focusedDeal());
    focusStrip(order[Math.min(Math.max(at + by, 0), order.length - 1)]);
  };
  useShortcuts('Deal grid', [
    { keys: 'j', does: 'Next deal', run: () => step(1) },
    { keys: 'k', does: 'Deal before', run: () => step(-1) },
    {
      keys: 'x',
      does: 'Mark the deal, to move several at once',
      run: () => {
        const id = focusedDeal();
        if (!Number.isNaN(id)) toggle(id);
      },
    },
    {
      keys: '↑ ↓ ← →',
      does: isByMonth ? 'Move the deal: stage, close month' : 'Move the deal: close month, stage',
      run: () => undefined,
    },
  ]);

  /** The move of a deal to a place; none where it stands there already, or nothing can. */
  const moveTo = (
    deal: AnyRecord,
    stage: RecordOf<'stage'> | undefined,
    column: GridColumn | undefined,
  ): Move[] => {
    if (!stage || !column) return [];
    const closeOn = closeDateIn(column, String(deal.closeOn), grid.columns);
    if (closeOn === undefined || (stage.id === deal.stage && closeOn === deal.closeOn)) return [];
    const where = [
      stage.id !== deal.stage && stage.name,
      closeOn !== deal.closeOn && `closes ${date(closeOn)}`,
    ];
    const words = `${String(deal.name)}: ${where.filter(Boolean).join(', ')}`;
    return [{ id: deal.id, changes: { stage: stage.id, closeOn }, words }];
  };
  const moveAll = (moves: readonly Move[]) => {
    if (moves.length > 0) move.mutate(moves);
  };
  const shifted = (deal: AnyRecord, direction: Direction) => {
    const stageAt = stages.findIndex(({ id }) => id === deal.stage);
    const columnAt = grid.columns.indexOf(columnOf(String(deal.closeOn), grid.columns));
    const across = direction === 'right' ? 1 : direction === 'left' ? -1 : 0;
    const up = direction === 'up' ? 1 : direction === 'down' ? -1 : 0;
    // Side by side, stages run to the right and months down.
    const [stageStep, columnStep] = isByMonth ? [up, across] : [across, -up];
    return moveTo(deal, stages[stageAt + stageStep], grid.columns[columnAt + columnStep]);
  };
  const shift = (deal: AnyRecord, direction: Direction) => {
    moved.current = deal.id;
    moveAll(withMarked(deal).flatMap((each) => shifted(each, direction)));
  };
  const drop = ({ active, over }: DragEndEvent) => {
    setDragged(undefined);
    const deal = deals.find(({ id }) => id === active.id);
    if (!deal || !over) return;
    const [stage, column] = String(over.id).split('|');
    moved.current = deal.id;
    moveAll(
      withMarked(deal).flatMap((each) =>
        moveTo(
          each,
          stages.find(({ id }) => id === Number(stage)),
          column === KEEPS_DATE
            ? columnOf(String(each.closeOn), grid.columns)
            : grid.columns.find(({ key }) => key === column),
        ),
      ),
    );
  };
  const drawn: Drawn = {
    more,
    listOf,
    strip: (record) => (
      <DealStrip
        key={record.id}
        deal={record}
        isFixed={isPhone}
        accountName={names.account?.[Number(record.account)]}
        isMarked={marked.has(record.id)}
        onMark={() => toggle(record.id)}
        onOpen={() => open('deal', record.id)}
        onMove={(direction) => shift(record, direction)}
        onClose={() => open('deal', record.id, { part: 'close' })}
      />
    ),
  };
  const draggedDeal = deals.find(({ id }) => id === dragged);

  return (
    <DndContext
      sensors={sensors}
      onDragStart={({ active }) => setDragged(Number(active.id))}
      onDragEnd={drop}
      onDragCancel={() => setDragged(undefined)}
    >
      {markedDeals.length > 0 && (
        <p className="grid-marked" role="status">
          <span>
            <b>{counted(markedDeals.length, 'deal')} marked.</b> Dragging one of them, or an arrow key on it,
            moves all.
          </span>
          <Button size="small" onClick={() => setMarked(new Set())}>
            Take the marks away
          </Button>
        </p>
      )}
      {isPhone ? (
        <OneStage layout={grid} drawn={drawn} />
      ) : arrangement === 'stages' ? (
        <StageColumns layout={grid} drawn={drawn} />
      ) : (
        <MonthGrid layout={grid} drawn={drawn} />
      )}
      <DragOverlay dropAnimation={null}>
        {draggedDeal && (
          <div className="strip strip-carried">
            <div className="strip-main">
              <b className="clip">
                {withMarked(draggedDeal).length > 1
                  ? counted(withMarked(draggedDeal).length, 'deal')
                  : (names.account?.[Number(draggedDeal.account)] ?? draggedDeal.name)}
              </b>
            </div>
          </div>
        )}
      </DragOverlay>
    </DndContext>
  );
}
