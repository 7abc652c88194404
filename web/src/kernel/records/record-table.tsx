import { useQuery } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import {
  canOverlap,
  columnLabel,
  columnsOf,
  completeQuestion,
  fieldAt,
  holdsFile,
  isCustomKey,
  figuresIn,
  isSubject,
  isToldInPast,
  objectType,
  recordsIn,
  type AnyRecord,
  type Design,
  type ObjectKey,
  type SubjectKey,
  type Wording,
} from '@zawn/core';
import {
  useEffect,
  useMemo,
  useRef,
  useState,
  type Dispatch,
  type MouseEvent,
  type ReactNode,
  type SetStateAction,
} from 'react';
import { figureAnswers } from '../../platform/api/queries';
import { useNotices } from '../../platform/api/use-write';
import { isMarked, marking, markedCount, allMarked, noMarks, type Marks } from './marks';
import { type LabelContext } from '../drawings/key-label';
import { number } from '../../platform/frame/format';
import { useOpening, useResult } from '../../platform/frame/opening';
import { usePhone } from '../../platform/frame/use-phone';
import { useShortcuts } from '../../platform/frame/shortcuts';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { useBrought } from '../shell/feature';
import { CellPart } from './cell-part';
import { ColumnHeading, type Column } from './column-heading';
import { isFigure, usualWidth } from './column-widths';
import { Fact } from './fact';
import { FieldValue } from './field-value';
import { GroupHead, TableFoot } from './group-head';
import { Lines } from './lines';
import './record-table.css';
import { type Rows } from './use-rows';

interface Props {
  design: Design;
  onChange: (design: Design, how?: { replace: boolean }) => void;
  rows: Rows;
  wording: Wording;
  marks: Marks;
  setMarks: Dispatch<SetStateAction<Marks>>;
  empty: ReactNode;
  /** Shown in a column instead of the field's own value. */
  show?: Partial<Record<string, (record: AnyRecord) => ReactNode>>;
}

const ROW = 34;
/** On a phone a row has two lines: the name with one figure, and what else fits. */
const ROW_ON_PHONE = 58;
/** Room for the mark of a row, and at both ends. */
const MARK = 34;
const EDGES = 34;

/** What a row of an object opens: itself, or for an activity what it hangs on. */
function opens(object: ObjectKey, record: AnyRecord): [SubjectKey, number] | undefined {
  if (isSubject(object)) return [object, record.id];
  for (const subject of ['deal', 'lead', 'contact', 'account'] as const)
    if (typeof record[subject] === 'number') return [subject, record[subject]];
  return undefined;
}

/** Records as rows: any number of them, fetched as they come into view, grouped, marked, and edited in place. */
export function RecordTable({ design, onChange, rows, wording, marks, setMarks, empty, show = {} }: Props) {
  const { catalogue, organisation, policy } = useSession();
  const question = useMemo(() => completeQuestion(catalogue, design.question), [catalogue, design.question]);
  const { object, groups = [] } = question;
  const complete = useMemo(() => ({ ...design, question }), [design, question]);
  const isPast = question.asOf !== undefined;
  // Nothing can be done with what stood then.
  const mark = isPast ? () => undefined : setMarks;
  const isGrouped = groups.length > 0;
  const repeats = canOverlap(catalogue, object, groups);
  const { data: answers } = useQuery({
    ...figureAnswers(
      [0, 1, 2].slice(0, groups.length + 1).map((depth) => figuresIn(complete, depth)),
      'leftOut',
    ),
    enabled: isGrouped,
  });
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const tooMany = answers?.some(({ isCut }) => isCut) ?? false;
  const lines = useMemo(
    () =>
      isGrouped && answers && !tooMany
        ? new Lines(rows.total ?? 0, answers[1]?.rows, answers[2]?.rows, folded)
        : new Lines(rows.places ?? 0, undefined, undefined, folded),
    [isGrouped, answers, tooMany, rows.total, rows.places, folded],
  );
  const columns = useMemo<Column[]>(
    () =>
      columnsOf(design)
        .map((path, index): Column => {
          const field = fieldAt(catalogue, object, path);
          const isName = path === objectType(object).nameField || index === 0;
          return {
            path,
            field,
            label: columnLabel(catalogue, design.question, path),
            width: design.widths?.[path] ?? usualWidth(object, path, field, isName),
          };
        })
        .filter(({ field }) => field !== undefined)
        // How the others stood then is not known.
        .filter(({ path }) => !isPast || isToldInPast(catalogue, object, path)),
    [design, catalogue, object, isPast],
  );
  const isPhone = usePhone();
  const { opened, open } = useOpening();
  const { setResult } = useResult();
  const { complain } = useNotices();
  const [active, setActive] = useState<{ line: number; column: number }>();
  const [editing, setEditing] = useState<{ id: number; path: string }>();
  const anchor = useRef<number>(undefined);
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => (isPhone ? ROW_ON_PHONE : ROW),
    overscan: 14,
  });
  useEffect(() => virtual.measure(), [virtual, isPhone]);
  const items = virtual.getVirtualItems();

  const { want, places, placeOf, at: rowAt, idsAt } = rows;
  const [firstRecord, lastRecord] = useMemo(() => {
    const shown = items.map(({ index }) => lines.at(index)).filter((line) => line?.kind === 'record');
    return [shown[0]?.at ?? 0, shown.at(-1)?.at ?? 0];
  }, [items, lines]);
  useEffect(() => want(firstRecord, lastRecord), [want, firstRecord, lastRecord]);
  useEffect(() => {
    if (!isSubject(object)) return;
    const idAt = (place: number) => rowAt(place)?.id ?? idsAt([place]).then(([id]) => id);
    setResult({ object, count: places ?? 0, placeOf, idAt });
    return () => setResult(undefined);
  }, [object, places, placeOf, rowAt, idsAt, setResult]);

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
    mark(marking(marks, [record.id], !isMarked(marks, record.id)));
  };
  /** Marks every row from the last one marked to this one, those not fetched yet too. */
  const markTo = (line: number) => {
    const places = lines.recordsBetween(anchor.current ?? line, line);
    rows
      .idsAt(places)
      .then((found) => mark((before) => marking(before, found, true)))
      .catch(complain);
  };
  // As it stood a record is looked at only.
  const mayEdit = policy.allows(object, 'edit') && !isPast;
  // A file is put where its buttons are: on the sheet.
  const canEdit = ({ field }: Column) =>
    field !== undefined && (field.set ?? 'edit') === 'edit' && !holdsFile(field) && mayEdit;
  const cellParts = useBrought('cells');
  const partOf = ({ path }: Column) =>
    isSubject(object) && mayEdit
      ? cellParts.find(({ objects, fields }) => objects.includes(object) && fields.includes(path))
      : undefined;
  const edit = (record: AnyRecord | undefined, column: Column) => {
    if (record && !column.path.includes('.') && (canEdit(column) || partOf(column)))
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
    {
      keys: 'e',
      does: 'Edit the cell',
      run: () => edit(recordAt(active?.line), columns[active?.column ?? 0]),
    },
    { keys: 'x', does: 'Mark the row', run: () => active && toggle(recordAt(active.line), active.line) },
    { keys: 'X', does: 'Mark from the last mark to here', run: () => active && markTo(active.line) },
    {
      keys: 'A',
      does: 'Mark all that match, or none',
      run: () => mark(markedCount(marks, rows.total ?? 0) > 0 ? noMarks : allMarked),
    },
  ]);

  if (rows.error) return <Trouble error={rows.error} retry={rows.refetch} />;
  if (rows.total === undefined) return <Skeleton rows={12} />;
  if (rows.total === 0) return empty;
  const set = columns.map(({ path, width }) =>
    design.widths?.[path] === undefined ? `minmax(${width}px, ${width}fr)` : `${width}px`,
  );
  // Every row is as wide as the narrowest columns allow, so that they line up while the table scrolls sideways.
  const layout = isPhone
    ? {}
    : {
        gridTemplateColumns: `${MARK}px ${set.join(' ')}`,
        minWidth: columns.reduce((sum, { width }) => sum + width, MARK + EDGES),
      };
  const marked = markedCount(marks, rows.total);
  const fold = (name: string) =>
    setFolded((before) => {
      const next = new Set(before);
      if (!next.delete(name)) next.add(name);
      return next;
    });
  const click = (event: MouseEvent, record: AnyRecord, line: number) => {
    setActive((before) => ({ line, column: before?.column ?? 0 }));
    if (event.shiftKey) markTo(line);
    else if (event.ctrlKey || event.metaKey) toggle(record, line);
    else openRecord(record);
  };
  const cell = (record: AnyRecord, { path, field }: Column): ReactNode => {
    if (!field) return null;
    // What is drawn in place of a value tells of the record as it is.
    const own = isPast ? undefined : show[path]?.(record);
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
            disabled={isPast}
            aria-label={marked === 0 ? `Mark all ${number(rows.total)}` : 'Take all marks away'}
            checked={marked > 0 && marked === rows.total}
            ref={(box) => {
              if (box) box.indeterminate = marked > 0 && marked < (rows.total ?? 0);
            }}
            onChange={() => mark(marked > 0 ? noMarks : allMarked)}
          />
        </div>
        {columns.map((column) => (
          <ColumnHeading key={column.path} column={column} design={design} onChange={onChange} />
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
                <GroupHead
                  line={line}
                  design={design}
                  question={question}
                  labels={labels}
                  fold={() => fold(line.name)}
                />
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
              // One that stands in several groups has a row in each.
              key={`${record.id} ${repeats ? line.at : ''}`}
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
                  disabled={isPast}
                  aria-label={`Mark ${String(record[objectType(object).nameField])}`}
                  checked={isMarked(marks, record.id)}
                  onClick={(event) => (event.shiftKey ? markTo(index) : toggle(record, index))}
                  onChange={() => undefined}
                />
              </div>
              {columns.map((column, at) => {
                const isEditing = editing?.id === record.id && editing.path === column.path;
                const part = isEditing && isSubject(object) ? partOf(column) : undefined;
                return (
                  <div
                    key={column.path}
                    role="gridcell"
                    data-path={column.path}
                    data-active={(isActive && active?.column === at) || undefined}
                    className={`clip ${isFigure(column.field) ? 'figure' : ''} ${isEditing ? 'table-editing' : ''}`}
                    onDoubleClick={() => {
                      setActive({ line: index, column: at });
                      edit(record, column);
                    }}
                  >
                    {part && isSubject(object) ? (
                      <CellPart
                        part={part}
                        object={object}
                        record={record}
                        close={() => setEditing(undefined)}
                      >
                        {cell(record, column)}
                      </CellPart>
                    ) : isEditing ? (
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
      {isGrouped && (
        <TableFoot
          total={rows.total}
          answer={tooMany ? undefined : answers?.[0]}
          design={design}
          question={question}
          labels={labels}
        />
      )}
    </div>
  );
}

/** The question for the rows of a table, its unfinished parts left out. */
export const rowsQuestion = (design: Design, catalogue: Wording['catalogue']) =>
  recordsIn(
    {
      ...design,
      question: completeQuestion(catalogue, {
        ...design.question,
        // An amount behind a link needs the currency that stands beside it.
        // A field that comes with Zawn and is not known here is hidden from the person, not gone.
        columns: columnsOf(design)
          .filter(
            (path) =>
              isCustomKey(path) || path.includes('.') || fieldAt(catalogue, design.question.object, path),
          )
          .flatMap((path) => [path, ...currencyBeside(catalogue, design.question.object, path)]),
      }),
    },
    catalogue,
  );

function currencyBeside(catalogue: Wording['catalogue'], object: ObjectKey, path: string): string[] {
  const currency = fieldAt(catalogue, object, path)?.currency;
  return currency && path.includes('.') ? [`${path.slice(0, path.lastIndexOf('.'))}.${currency}`] : [];
}
