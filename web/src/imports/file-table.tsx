import { useVirtualizer } from '@tanstack/react-virtual';
import { fieldsOf, type ImportPreview } from '@zawn/core';
import { Select } from 'antd';
import { useMemo, useRef } from 'react';
import { useSession } from '../sessions/session';

const ROW = 30;
const WIDTH = 168;

const LEFT_OUT = '';

/** The file's own rows, a field picker on each column's head, trouble marked in the cell that causes it. */
export function FileTable({
  preview,
  point,
}: {
  preview: ImportPreview;
  point: (column: number, key: string | null) => void;
}) {
  const { catalogue } = useSession();
  /** Fields of a lead that a column can fill. */
  const fields = fieldsOf(catalogue, 'lead')
    .filter(([, field]) => (field.set ?? 'edit') === 'edit')
    .map(([value, { label }]) => ({ value, label }));
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: preview.rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 10,
  });
  const trouble = useMemo(() => {
    const byCell = new Map<string, string>();
    for (const { row, column, reason } of preview.refused) byCell.set(`${row} ${column ?? 'row'}`, reason);
    for (const { row, reason } of preview.skipped) byCell.set(`${row} skipped`, reason);
    return byCell;
  }, [preview]);
  const template = `84px repeat(${preview.headings.length}, ${WIDTH}px)`;
  return (
    <div
      className="file-table"
      ref={scroller}
      role="table"
      aria-label="Rows of the file"
      aria-rowcount={preview.rowCount}
    >
      <div className="file-head" role="row" style={{ gridTemplateColumns: template }}>
        <div role="columnheader">Row</div>
        {preview.headings.map((heading, index) => (
          <div key={index} role="columnheader">
            <span className="clip">{heading}</span>
            <Select
              size="small"
              value={preview.columns[index] ?? LEFT_OUT}
              options={[{ value: LEFT_OUT, label: 'Left out' }, ...fields]}
              onChange={(key) => point(index, key || null)}
              showSearch={{ optionFilterProp: 'label' }}
              aria-label={`Field for ${heading}`}
              status={preview.columns[index] === null ? 'warning' : ''}
            />
          </div>
        ))}
      </div>
      <div role="rowgroup" style={{ height: virtual.getTotalSize(), position: 'relative' }}>
        {virtual.getVirtualItems().map(({ index, start }) => {
          const { row, cells } = preview.rows[index];
          const whole = trouble.get(`${row} row`);
          const skipped = trouble.get(`${row} skipped`);
          return (
            <div
              key={row}
              role="row"
              className={`file-row ${skipped ? 'file-skipped' : ''}`}
              style={{ gridTemplateColumns: template, transform: `translateY(${start}px)` }}
            >
              <div role="cell" className={whole ? 'file-trouble' : 'second'} title={whole ?? skipped}>
                {row}
                {skipped && ' skipped'}
              </div>
              {preview.headings.map((_, column) => {
                const reason = trouble.get(`${row} ${column}`);
                return (
                  <div
                    key={column}
                    role="cell"
                    className={`clip ${reason ? 'file-trouble' : ''} ${preview.columns[column] === null ? 'second' : ''}`}
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
