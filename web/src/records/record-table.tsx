import { useInfiniteQuery } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import {
  fieldOf,
  type AnyRecord,
  type Field,
  type Names,
  type ObjectKey,
  type Question,
  type SubjectKey,
} from '@zawn/core';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { recordPages } from '../api/queries';
import { useOpening, useResult } from '../frame/opening';
import { useShortcuts } from '../frame/shortcuts';
import { Skeleton, Trouble } from '../frame/states';
import { FieldValue } from './field-value';
import './record-table.css';

export interface Column {
  /** The field's key. */
  field: string;
  /** Pixels it takes at least; the table's spare room is shared out by these. */
  width: number;
  /** Shown instead of the field's own value. */
  show?: (record: AnyRecord, names: Names) => ReactNode;
  label?: string;
}

interface Props {
  question: Question;
  columns: readonly Column[];
  /** Sorts by another field; the present order is in the question. */
  onSort: (field: string) => void;
  empty: ReactNode;
}

const ROW = 34;
/** Room at both ends of a row. */
const EDGES = 48;
/** Rows from the end at which the next page is fetched. */
const AHEAD = 60;
const FIGURES = new Set(['money', 'number', 'percent']);

const isFigure = (field: Field | undefined) => field !== undefined && FIGURES.has(field.type);

function Heading({
  column,
  object,
  question,
  onSort,
}: { column: Column; object: ObjectKey } & Pick<Props, 'question' | 'onSort'>) {
  const field = fieldOf(object, column.field);
  const sort = question.sort?.find((each) => each.field === column.field);
  const Arrow = sort?.descending ? ArrowDown : ArrowUp;
  return (
    <div
      role="columnheader"
      aria-sort={sort ? (sort.descending ? 'descending' : 'ascending') : 'none'}
      className={isFigure(field) ? 'figure' : ''}
    >
      <button type="button" onClick={() => onSort(column.field)}>
        {column.label ?? field?.label}
        {sort && <Arrow size={12} aria-hidden />}
      </button>
    </div>
  );
}

/** Records as rows: any number of them, fetched as they come into view, walked through by keyboard. */
export function RecordTable({ question, columns, onSort, empty }: Props) {
  const object = question.object as SubjectKey;
  const { data, error, refetch, fetchNextPage, hasNextPage, isFetchingNextPage } = useInfiniteQuery(
    recordPages(question),
  );
  const rows = useMemo(() => data?.pages.flatMap((page) => page.rows) ?? [], [data]);
  const names = useMemo(() => {
    const all: Names = {};
    for (const page of data?.pages ?? []) {
      for (const [key, known] of Object.entries(page.names))
        Object.assign((all[key as ObjectKey] ??= {}), known);
    }
    return all;
  }, [data]);
  const { opened, open } = useOpening();
  const { setResult } = useResult();
  const [activeId, setActiveId] = useState<number>();
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
  });
  const items = virtual.getVirtualItems();
  const lastShown = items.at(-1)?.index ?? 0;

  useEffect(() => {
    if (hasNextPage && !isFetchingNextPage && lastShown > rows.length - AHEAD) void fetchNextPage();
  }, [lastShown, rows.length, hasNextPage, isFetchingNextPage, fetchNextPage]);
  useEffect(() => {
    setResult({ object, ids: rows.map(({ id }) => id) });
    return () => setResult(undefined);
  }, [object, rows, setResult]);

  const current = opened?.object === object ? opened.id : activeId;
  const index = rows.findIndex(({ id }) => id === current);
  useEffect(() => {
    if (index >= 0) virtual.scrollToIndex(index);
  }, [index, virtual]);
  const move = (step: number) => {
    const row = rows[Math.min(Math.max(index + step, 0), rows.length - 1)];
    if (row) setActiveId(row.id);
  };
  useShortcuts('List', [
    { keys: 'j', also: 'ArrowDown', does: 'Next row (also the arrow)', run: () => move(1) },
    { keys: 'k', also: 'ArrowUp', does: 'Row before', run: () => move(-1) },
    { keys: 'Enter', does: 'Open', run: () => current !== undefined && open(object, current) },
  ]);

  if (error) return <Trouble error={error} retry={() => void refetch()} />;
  if (!data) return <Skeleton rows={12} />;
  if (rows.length === 0) return empty;
  const gridTemplateColumns = columns.map(({ width }) => `minmax(${width}px, ${width}fr)`).join(' ');
  // Every row is as wide as the narrowest columns allow, so that they line up while the table scrolls sideways.
  const layout = { gridTemplateColumns, minWidth: columns.reduce((sum, { width }) => sum + width, EDGES) };
  return (
    <div
      className="table"
      ref={scroller}
      role="grid"
      aria-rowcount={data.pages[0].total + 1}
      aria-label="Records"
    >
      <div className="table-head" role="row" style={layout}>
        {columns.map((column) => (
          <Heading key={column.field} {...{ column, object, question, onSort }} />
        ))}
      </div>
      <div className="table-body" style={{ height: virtual.getTotalSize() }} role="rowgroup">
        {items.map(({ index: at, start }) => {
          const record = rows[at];
          return (
            <div
              key={record.id}
              role="row"
              aria-rowindex={at + 2}
              aria-selected={record.id === current}
              className="table-row"
              style={{ ...layout, transform: `translateY(${start}px)` }}
              onClick={() => {
                setActiveId(record.id);
                open(object, record.id);
              }}
            >
              {columns.map((column) => {
                const field = fieldOf(object, column.field);
                return (
                  <div
                    key={column.field}
                    role="gridcell"
                    className={`clip ${isFigure(field) ? 'figure' : ''}`}
                  >
                    {column.show
                      ? column.show(record, names)
                      : field && (
                          <FieldValue
                            field={field}
                            value={record[column.field]}
                            record={record}
                            names={names}
                          />
                        )}
                  </div>
                );
              })}
            </div>
          );
        })}
      </div>
    </div>
  );
}
