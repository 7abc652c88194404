import { columnsOf, type Design, type Field } from '@zawn/core';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { isFigure } from './column-widths';

/** A column of a table: what it shows, what it is called, and its room. */
export interface Column {
  path: string;
  field: Field | undefined;
  label: string;
  width: number;
}

const NARROWEST = 56;
const WIDEST = 900;
const STEP = 24;

/** The head of a column: it sorts, Alt and the arrows move it, Shift and the arrows or its edge set its width. */
export function ColumnHeading({
  column,
  design,
  onChange,
}: {
  column: Column;
  design: Design;
  onChange: (design: Design, how?: { replace: boolean }) => void;
}) {
  const { question, widths = {} } = design;
  const sort = question.sort?.find(({ field }) => field === column.path);
  const Arrow = sort?.descending ? ArrowDown : ArrowUp;
  const start = useRef<{ x: number; width: number }>(undefined);
  const setWidth = (width: number) => {
    const kept = Math.round(Math.min(Math.max(width, NARROWEST), WIDEST));
    onChange({ ...design, widths: { ...widths, [column.path]: kept } }, { replace: true });
  };
  const move = (step: number) => {
    const columns = [...columnsOf(design)];
    const at = columns.indexOf(column.path);
    if (at + step < 0 || at + step >= columns.length) return;
    columns.splice(at + step, 0, ...columns.splice(at, 1));
    onChange({ ...design, question: { ...question, columns } }, { replace: true });
  };
  const press = (event: KeyboardEvent) => {
    if (event.key !== 'ArrowLeft' && event.key !== 'ArrowRight') return;
    const step = event.key === 'ArrowRight' ? 1 : -1;
    if (event.shiftKey) setWidth(column.width + step * STEP);
    else if (event.altKey) move(step);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const sortBy = () => {
    const descending = sort ? !sort.descending : false;
    onChange({
      ...design,
      question: { ...question, sort: [{ field: column.path, ...(descending ? { descending } : {}) }] },
    });
  };
  const drag = (event: PointerEvent<HTMLSpanElement>) => {
    if (event.type === 'pointerdown') {
      event.currentTarget.setPointerCapture(event.pointerId);
      const shown = event.currentTarget.parentElement?.getBoundingClientRect().width;
      start.current = { x: event.clientX, width: shown ?? column.width };
    } else if (event.type === 'pointerup' && start.current) {
      setWidth(start.current.width + event.clientX - start.current.x);
      start.current = undefined;
    }
  };
  return (
    <div
      role="columnheader"
      aria-sort={sort ? (sort.descending ? 'descending' : 'ascending') : 'none'}
      className={isFigure(column.field) ? 'figure' : ''}
    >
      <button
        type="button"
        onClick={sortBy}
        onKeyDown={press}
        title={`${column.label}. Alt and an arrow move the column, Shift and an arrow set its width.`}
      >
        <span className="clip">{column.label}</span>
        {sort && <Arrow size={12} aria-hidden />}
      </button>
      <span className="column-edge" onPointerDown={drag} onPointerUp={drag} aria-hidden />
    </div>
  );
}
