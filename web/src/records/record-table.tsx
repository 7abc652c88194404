import { useQuery } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import {
  behind,
  columnsOf,
  completeQuestion,
  fieldAt,
  figuresIn,
  groupingInWords,
  isSubject,
  measureInWords,
  objectType,
  pathInWords,
  recordsIn,
  type AnyRecord,
  type Design,
  type Field,
  type ObjectKey,
  type SubjectKey,
  type Wording,
} from '@zawn/core';
import { ArrowDown, ArrowUp, ChevronDown, ChevronRight } from 'lucide-react';
import {
  useEffect,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent,
  type MouseEvent,
  type PointerEvent,
  type ReactNode,
} from 'react';
import { Link } from 'react-router';
import { figureAnswers } from '../api/queries';
import { isMarked, marking, markedCount, allMarked, noMarks, type Marks } from '../bulk/marks';
import { figureText, keyLabel, type LabelContext } from '../drawings/key-label';
import { number } from '../frame/format';
import { useOpening, useResult } from '../frame/opening';
import { useShortcuts } from '../frame/shortcuts';
import { Skeleton, Trouble } from '../frame/states';
import { listAddress } from '../questions/list-address';
import { useSession } from '../sessions/session';
import { isFigure, usualWidth } from './column-widths';
import { Fact } from './fact';
import { FieldValue } from './field-value';
import { Lines, type GroupLine } from './lines';
import './record-table.css';
import { type Rows } from './use-rows';

interface Props {
  design: Design;
  onChange: (design: Design, how?: { replace: boolean }) => void;
  rows: Rows;
  wording: Wording;
  marks: Marks;
  setMarks: (marks: Marks) => void;
  empty: ReactNode;
  /** Shown in a column instead of the field's own value. */
  show?: Partial<Record<string, (record: AnyRecord) => ReactNode>>;
}

interface Column {
  path: string;
  field: Field | undefined;
  label: string;
  width: number;
}

const ROW = 34;
/** Room for the mark of a row, and at both ends. */
const MARK = 34;
const EDGES = 34;
const NARROWEST = 56;
const WIDEST = 900;
const STEP = 24;

/** What a row of an object opens: itself, or for an activity what it hangs on. */
function opens(object: ObjectKey, record: AnyRecord): [SubjectKey, number] | undefined {
  if (isSubject(object)) return [object, record.id];
  for (const subject of ['deal', 'lead', 'contact', 'account'] as const)
    if (typeof record[subject] === 'number') return [subject, record[subject]];
  return undefined;
}

function Heading({
  column,
  design,
  onChange,
}: {
  column: Column;
  design: Design;
  onChange: Props['onChange'];
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

/** Records as rows: any number of them, fetched as they come into view, grouped, marked, and edited in place. */
export function RecordTable({ design, onChange, rows, wording, marks, setMarks, empty, show = {} }: Props) {
  const { catalogue, organisation } = useSession();
  const question = useMemo(() => completeQuestion(catalogue, design.question), [catalogue, design.question]);
  const { object, groups = [], measures = [] } = question;
  const complete = useMemo(() => ({ ...design, question }), [design, question]);
  const isGrouped = groups.length > 0;
  const { data: answers } = useQuery({
    ...figureAnswers([0, 1, 2].slice(0, groups.length + 1).map((depth) => figuresIn(complete, depth))),
    enabled: isGrouped,
  });
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const tooMany = answers?.some(({ isCut }) => isCut) ?? false;
  const lines = useMemo(
    () =>
      isGrouped && answers && !tooMany
        ? new Lines(rows.total ?? 0, answers[1]?.rows, answers[2]?.rows, folded)
        : new Lines(rows.total ?? 0, undefined, undefined, folded),
    [isGrouped, answers, tooMany, rows.total, folded],
  );
  const columns = useMemo<Column[]>(
    () =>
      columnsOf(design)
        .map((path, index): Column => {
          const field = fieldAt(catalogue, object, path);
          const words = pathInWords(catalogue, object, path) ?? path;
          const isName = path === objectType(object).nameField || index === 0;
          return {
            path,
            field,
            label: words.charAt(0).toUpperCase() + words.slice(1),
            width: design.widths?.[path] ?? usualWidth(object, path, field, isName),
          };
        })
        .filter(({ field }) => field !== undefined),
    [design, catalogue, object],
  );
  const { opened, open } = useOpening();
  const { setResult } = useResult();
  const [active, setActive] = useState<{ line: number; column: number }>();
  const [editing, setEditing] = useState<{ id: number; path: string }>();
  const anchor = useRef<number>(undefined);
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 14,
  });
  const items = virtual.getVirtualItems();

  const { want, ids } = rows;
  const [firstRecord, lastRecord] = useMemo(() => {
    const shown = items.map(({ index }) => lines.at(index)).filter((line) => line?.kind === 'record');
    return [shown[0]?.at ?? 0, shown.at(-1)?.at ?? 0];
  }, [items, lines]);
  useEffect(() => want(firstRecord, lastRecord), [want, firstRecord, lastRecord]);
  useEffect(() => {
    if (!isSubject(object)) return;
    setResult({ object, ids });
    return () => setResult(undefined);
  }, [object, ids, setResult]);

  const labels: LabelContext = {
    catalogue,
    calendar: organisation,
    wording,
    names: answers?.at(-1)?.names ?? {},
  };
  const recordAt = (line: number | undefined) => {
    const found = line === undefined ? undefined : lines.at(line);
    return found?.kind === 'record' ? rows.at(found.at) : undefined;
  };
  const openRecord = (record: AnyRecord | undefined) => {
    const to = record && opens(object, record);
    if (to) open(...to);
  };
  const move = (step: 1 | -1) => {
    const next = lines.nextRecord(active?.line ?? -1, step);
    if (next < 0) return;
    setActive({ line: next, column: active?.column ?? 0 });
    virtual.scrollToIndex(next);
    const record = recordAt(next);
    // The sheet beside goes along.
    if (opened && record) openRecord(record);
  };
  const toggle = (record: AnyRecord | undefined, line: number) => {
    if (!record) return;
    anchor.current = line;
    setMarks(marking(marks, [record.id], !isMarked(marks, record.id)));
  };
  /** Marks every row from the last one marked to this one. */
  const markTo = (line: number) => {
    const from = anchor.current ?? line;
    const span = Array.from(
      { length: Math.abs(line - from) + 1 },
      (_, index) => Math.min(from, line) + index,
    );
    const found = span.map(recordAt).filter((record) => record !== undefined);
    setMarks(
      marking(
        marks,
        found.map(({ id }) => id),
        true,
      ),
    );
  };
  const canEdit = ({ field }: Column) => field !== undefined && (field.set ?? 'edit') === 'edit';
  const edit = () => {
    const record = recordAt(active?.line);
    const column = columns[active?.column ?? 0];
    if (record && !column.path.includes('.') && canEdit(column))
      setEditing({ id: record.id, path: column.path });
  };
  const across = (step: number) =>
    setActive(
      (before) =>
        before && { ...before, column: Math.min(Math.max(before.column + step, 0), columns.length - 1) },
    );
  useShortcuts('List', [
    { keys: 'j', also: 'ArrowDown', does: 'Next row (also the arrow)', run: () => move(1) },
    { keys: 'k', also: 'ArrowUp', does: 'Row before', run: () => move(-1) },
    { keys: 'ArrowRight', does: 'Next column', run: () => across(1) },
    { keys: 'ArrowLeft', does: 'Column before', run: () => across(-1) },
    { keys: 'Enter', does: 'Open', run: () => openRecord(recordAt(active?.line)) },
    { keys: 'e', does: 'Edit the cell', run: edit },
    { keys: 'x', does: 'Mark the row', run: () => active && toggle(recordAt(active.line), active.line) },
    { keys: 'X', does: 'Mark from the last mark to here', run: () => active && markTo(active.line) },
    {
      keys: 'A',
      does: 'Mark all that match, or none',
      run: () => setMarks(markedCount(marks, rows.total ?? 0) > 0 ? noMarks : allMarked),
    },
  ]);

  if (rows.error) return <Trouble error={rows.error} retry={rows.refetch} />;
  if (rows.total === undefined) return <Skeleton rows={12} />;
  if (rows.total === 0) return empty;
  const set = columns.map(({ path, width }) =>
    design.widths?.[path] === undefined ? `minmax(${width}px, ${width}fr)` : `${width}px`,
  );
  // Every row is as wide as the narrowest columns allow, so that they line up while the table scrolls sideways.
  const layout = {
    gridTemplateColumns: `${MARK}px ${set.join(' ')}`,
    minWidth: columns.reduce((sum, { width }) => sum + width, MARK + EDGES),
  };
  const marked = markedCount(marks, rows.total);
  const click = (event: MouseEvent, record: AnyRecord, line: number) => {
    setActive((before) => ({ line, column: before?.column ?? 0 }));
    if (event.shiftKey) markTo(line);
    else if (event.ctrlKey || event.metaKey) toggle(record, line);
    else openRecord(record);
  };
  const groupHead = (line: GroupLine) => {
    const depth = line.keys.length - 1;
    const label = keyLabel(object, groups[depth], line.keys[depth], labels);
    return (
      <div className={`group-head group-head-${line.level}`} role="gridcell">
        <button
          type="button"
          className="group-fold"
          aria-expanded={!line.isFolded}
          onClick={() =>
            setFolded((before) => {
              const next = new Set(before);
              if (!next.delete(line.name)) next.add(line.name);
              return next;
            })
          }
        >
          {line.isFolded ? <ChevronRight size={14} aria-hidden /> : <ChevronDown size={14} aria-hidden />}
          <b>{label}</b>
          <span className="visually-hidden">, {groupingInWords(catalogue, object, groups[depth])}</span>
        </button>
        <Link
          className="second"
          to={listAddress(objectType(object).path, behind(question, line.keys, catalogue, organisation))}
        >
          {number(line.figures[0] ?? 0)}
        </Link>
        <span className="group-figures">
          {measures.map((measure, index) => (
            <span key={JSON.stringify(measure)}>
              <span className="second">{measureInWords(catalogue, object, measure)} </span>
              <b>
                {figureText(
                  line.figures[index + 1] ?? null,
                  measure,
                  object,
                  labels,
                  organisation.currency,
                  design.rounding,
                )}
              </b>
            </span>
          ))}
        </span>
      </div>
    );
  };
  const cell = (record: AnyRecord, { path, field }: Column): ReactNode => {
    if (!field) return null;
    const own = show[path]?.(record);
    if (own !== undefined) return own;
    return (
      <FieldValue field={field} value={record[path] ?? null} record={record} names={rows.names} path={path} />
    );
  };
  return (
    <div
      className={`table ${rows.isStale ? 'table-stale' : ''}`}
      ref={scroller}
      role="grid"
      aria-rowcount={lines.length + 1}
      aria-label={objectType(object).plural}
      aria-multiselectable
    >
      <div className="table-head" role="row" style={layout}>
        <div role="columnheader" className="table-mark">
          <input
            type="checkbox"
            aria-label={marked === 0 ? `Mark all ${number(rows.total)}` : 'Take all marks away'}
            checked={marked > 0 && marked === rows.total}
            ref={(box) => {
              if (box) box.indeterminate = marked > 0 && marked < (rows.total ?? 0);
            }}
            onChange={() => setMarks(marked > 0 ? noMarks : allMarked)}
          />
        </div>
        {columns.map((column) => (
          <Heading key={column.path} column={column} design={design} onChange={onChange} />
        ))}
      </div>
      <div className="table-body" style={{ height: virtual.getTotalSize() }} role="rowgroup">
        {items.map(({ index, start }) => {
          const line = lines.at(index);
          const place = { transform: `translateY(${start}px)` };
          if (line?.kind === 'group') {
            return (
              <div
                key={line.name}
                role="row"
                aria-rowindex={index + 2}
                className="table-row table-group"
                style={place}
              >
                {groupHead(line)}
              </div>
            );
          }
          const record = line && rows.at(line.at);
          if (!record) {
            return (
              <div
                key={`waiting ${index}`}
                role="row"
                aria-rowindex={index + 2}
                className="table-row table-waiting"
                style={{ ...layout, ...place }}
              >
                <div role="gridcell" aria-label="Loading" />
              </div>
            );
          }
          const isActive = active
            ? active.line === index
            : opened?.object === object && opened.id === record.id;
          const isOpened = opened?.object === object && opened.id === record.id;
          return (
            <div
              key={record.id}
              role="row"
              aria-rowindex={index + 2}
              aria-selected={isMarked(marks, record.id)}
              data-current={isActive || isOpened || undefined}
              className="table-row"
              style={{ ...layout, ...place }}
              onClick={(event) => click(event, record, index)}
            >
              <div role="gridcell" className="table-mark" onClick={(event) => event.stopPropagation()}>
                <input
                  type="checkbox"
                  aria-label={`Mark ${String(record[objectType(object).nameField])}`}
                  checked={isMarked(marks, record.id)}
                  onClick={(event) => (event.shiftKey ? markTo(index) : toggle(record, index))}
                  onChange={() => undefined}
                />
              </div>
              {columns.map((column, at) => {
                const isEditing = editing?.id === record.id && editing.path === column.path;
                return (
                  <div
                    key={column.path}
                    role="gridcell"
                    data-path={column.path}
                    data-active={(isActive && active?.column === at) || undefined}
                    className={`clip ${isFigure(column.field) ? 'figure' : ''} ${isEditing ? 'table-editing' : ''}`}
                    onDoubleClick={() => {
                      setActive({ line: index, column: at });
                      if (!column.path.includes('.') && canEdit(column))
                        setEditing({ id: record.id, path: column.path });
                    }}
                  >
                    {isEditing ? (
                      <span onClick={(event) => event.stopPropagation()}>
                        <Fact
                          object={object}
                          fieldKey={column.path}
                          record={record}
                          names={rows.names}
                          startsEditing
                          onLeave={() => setEditing(undefined)}
                        />
                      </span>
                    ) : (
                      cell(record, column)
                    )}
                  </div>
                );
              })}
            </div>
          );
        })}
      </div>
      {(measures.length > 0 || tooMany) && isGrouped && (
        <div className="table-foot" role="row">
          <div role="gridcell" className="group-head">
            {tooMany ? (
              <b>There are more groups than a table can show. Group by something coarser.</b>
            ) : (
              <>
                <b>All {number(rows.total)}</b>
                <span className="group-figures">
                  {measures.map((measure, index) => (
                    <span key={JSON.stringify(measure)}>
                      <span className="second">{measureInWords(catalogue, object, measure)} </span>
                      <b>
                        {figureText(
                          answers?.[0]?.rows[0]?.figures[index + 1] ?? null,
                          measure,
                          object,
                          labels,
                          organisation.currency,
                          design.rounding,
                        )}
                      </b>
                    </span>
                  ))}
                </span>
              </>
            )}
          </div>
        </div>
      )}
    </div>
  );
}

/** The question for the rows of a table, its unfinished parts left out. */
export const rowsQuestion = (design: Design, catalogue: Wording['catalogue']) =>
  recordsIn({
    ...design,
    question: completeQuestion(catalogue, {
      ...design.question,
      // An amount behind a link needs the currency that stands beside it.
      columns: columnsOf(design).flatMap((path) => [
        path,
        ...currencyBeside(catalogue, design.question.object, path),
      ]),
    }),
  });

function currencyBeside(catalogue: Wording['catalogue'], object: ObjectKey, path: string): string[] {
  const currency = fieldAt(catalogue, object, path)?.currency;
  return currency && path.includes('.') ? [`${path.slice(0, path.lastIndexOf('.'))}.${currency}`] : [];
}
