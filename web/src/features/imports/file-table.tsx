import { useVirtualizer } from '@tanstack/react-virtual';
import { type ImportPreview, type TableHead } from '@zawn/core';
import {
  fillableFields,
  guessType,
  targetOf,
  type ColumnGuess,
  type ColumnSplit,
  type ImportSetup,
  type SplitAt,
} from '@zawn/core/imports';
import { Select } from 'antd';
import { useMemo, useRef } from 'react';
import { splitOf, splitsWith, waysToSplit } from './split-choices';
import { useSession } from '../../platform/sessions/session';

const ROW = 30;
const WIDTH = 176;
const LEFT_OUT = '';
const NEW_FIELD = 'new field';
const SPLIT = 'split ';
const WHOLE = 'whole';
/** Below this a guess is marked as one. */
const SURE = 0.8;

interface Props {
  table: TableHead;
  setup: ImportSetup;
  guesses: readonly ColumnGuess[];
  refused: ImportPreview['refused'];
  /** Cells that are left empty. */
  notes: ImportPreview['notes'];
  point: (column: number, path: string | null) => void;
  /** Makes a field of the organisation’s own from a column; undefined for those who may not. */
  makeField?: (column: number) => void;
  /** Reads the file again with these columns split; undefined while it is not all read. */
  split?: (splits: ColumnSplit[]) => void;
}

/** The file’s own rows, a field picker on each column’s head, trouble marked in the cell that causes it. */
export function FileTable({ table, setup, guesses, refused, notes, point, makeField, split }: Props) {
  const { catalogue } = useSession();
  const { headings, rows } = table;
  const fields = useMemo(
    () =>
      fillableFields(catalogue, targetOf(setup.target)).map(({ path, label }) => ({ value: path, label })),
    [catalogue, setup.target],
  );
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 10,
  });
  const trouble = useMemo(
    () => new Map(refused.map(({ row, column, reason }) => [`${row} ${column ?? 'row'}`, reason])),
    [refused],
  );
  const left = useMemo(
    () => new Map(notes.map(({ row, column, reason }) => [`${row} ${column ?? 'row'}`, reason])),
    [notes],
  );
  const template = `64px repeat(${headings.length}, ${WIDTH}px)`;
  const why = (column: number) => {
    const path = setup.columns[column];
    const guess = guesses[column];
    const part = splitOf(table.splits, column);
    if (part)
      return `part ${column - part.from + 1} of “${part.heading}”${path === null ? ', left out' : ''}`;
    if (path === null) return 'left out';
    return guess?.value === path ? guess.why : 'as you said';
  };
  const isUnsure = (column: number) => {
    const guess = guesses[column];
    return guess !== undefined && guess.value === setup.columns[column] && guess.sure < SURE;
  };
  const newField = (column: number) => {
    const { value } = guessType(rows.map(({ cells }) => cells[column] ?? ''));
    return { value: NEW_FIELD, label: `New field “${headings[column]}” (${typeNames[value] ?? value})` };
  };
  const splitting = (column: number) => {
    const part = splitOf(table.splits, column);
    if (part) return [{ value: WHOLE, label: `Keep “${part.heading}” in one` }];
    return waysToSplit(rows.map(({ cells }) => cells[column] ?? '')).map(({ at, label }) => ({
      value: `${SPLIT}${at}`,
      label,
    }));
  };
  return (
    <div
      className="file-table"
      ref={scroller}
      role="table"
      aria-label="Rows of the file"
      aria-rowcount={table.rowCount}
    >
      <div className="file-head" role="row" style={{ gridTemplateColumns: template }}>
        <div role="columnheader">Row</div>
        {headings.map((heading, column) => (
          <div
            key={column}
            role="columnheader"
            className={setup.columns[column] === null ? 'file-left-out' : ''}
          >
            <span className="clip" title={heading}>
              {heading || '(no heading)'}
            </span>
            <Select
              size="small"
              value={setup.columns[column] ?? LEFT_OUT}
              options={[
                { value: LEFT_OUT, label: 'Leave out' },
                ...(split ? splitting(column) : []),
                ...(makeField ? [newField(column)] : []),
                ...fields,
              ]}
              onChange={(path) => {
                if (path === NEW_FIELD) makeField?.(column);
                else if (path === WHOLE) split?.(splitsWith(table, column));
                else if (path.startsWith(SPLIT))
                  split?.(splitsWith(table, column, path.slice(SPLIT.length) as SplitAt));
                else point(column, path || null);
              }}
              popupMatchSelectWidth={260}
              showSearch={{ optionFilterProp: 'label' }}
              aria-label={`Field for ${heading}`}
            />
            <span className={`file-why clip ${isUnsure(column) ? 'attention' : ''}`} title={why(column)}>
              {why(column)}
            </span>
          </div>
        ))}
      </div>
      <div role="rowgroup" style={{ height: virtual.getTotalSize(), position: 'relative' }}>
        {virtual.getVirtualItems().map(({ index, start }) => {
          const { row, cells } = rows[index];
          const whole = trouble.get(`${row} row`);
          return (
            <div
              key={row}
              role="row"
              className="file-row"
              style={{ gridTemplateColumns: template, transform: `translateY(${start}px)` }}
            >
              <div role="cell" className={whole ? 'file-trouble' : 'second'} title={whole}>
                {row}
                {whole && <span className="visually-hidden">{whole}</span>}
              </div>
              {headings.map((_, column) => {
                const refusal = trouble.get(`${row} ${column}`);
                const reason = refusal ?? left.get(`${row} ${column}`);
                const isOut = setup.columns[column] === null;
                return (
                  <div
                    key={column}
                    role="cell"
                    className={`clip ${refusal ? 'file-trouble' : reason ? 'file-note' : ''} ${isOut ? 'second' : ''}`}
                    title={reason}
                  >
                    {cells[column]}
                    {reason && <span className="visually-hidden">{reason}</span>}
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

const typeNames: Partial<Record<string, string>> = {
  text: 'text',
  longText: 'long text',
  number: 'number',
  date: 'date',
  yesNo: 'yes or no',
  choice: 'choice',
  email: 'mail',
  phone: 'phone',
  web: 'web address',
};
