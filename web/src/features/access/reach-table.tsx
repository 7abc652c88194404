import {
  isWider,
  objectType,
  operationLabels,
  operations,
  operationsOn,
  permittedObjects,
  reaches,
  reachLabels,
  type ObjectKey,
  type Operation,
  type Reach,
  type RoleRules,
} from '@zawn/core';
import { Dropdown } from 'antd';
import { useRef, useState, type KeyboardEvent } from 'react';

type Table = RoleRules['reach'];

const reachOf = (table: Table, object: ObjectKey, operation: Operation): Reach =>
  table[object]?.[operation] ?? 'none';

/** A table with one cell changed: what is not seen can neither be changed nor taken out, so the rest follows. */
export function withReach(table: Table, object: ObjectKey, operation: Operation, to: Reach): Table {
  const row = { ...table[object], [operation]: to };
  const see = row.see ?? 'none';
  for (const each of operationsOn(object)) if (isWider(row[each] ?? 'none', see)) row[each] = see;
  return { ...table, [object]: row };
}

interface Cell {
  row: number;
  column: number;
}

const steps: Readonly<Record<string, [number, number]>> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

/**
 * How far a role reaches, object by object and operation by operation. Arrows move, a digit sets a cell from none (0) to
 * all (5), with Shift the whole row; Enter offers the choices.
 */
export function ReachTable({
  table,
  before,
  change,
  name,
}: {
  table: Table;
  /** As it is kept: what differs is marked. */
  before: Table;
  change: (table: Table) => void;
  name: string;
}) {
  const objects = permittedObjects();
  const [at, setAt] = useState<Cell>({ row: 0, column: 0 });
  const [opened, setOpened] = useState<string>();
  const body = useRef<HTMLTableSectionElement>(null);
  const set = (object: ObjectKey, operation: Operation, to: Reach) =>
    change(withReach(table, object, operation, to));
  const setRow = (object: ObjectKey, to: Reach) =>
    change(
      operationsOn(object).reduce((result, operation) => withReach(result, object, operation, to), table),
    );
  const go = (row: number, column: number) => {
    const cell = body.current?.rows
      .item(row)
      ?.cells.item(column + 1)
      ?.querySelector('button');
    if (!cell) return;
    setAt({ row, column });
    cell.focus();
  };
  const onKeyDown = (event: KeyboardEvent, row: number, column: number) => {
    const step = steps[event.key];
    const digit = /^(?:Digit|Numpad)([0-5])$/.exec(event.code)?.[1];
    if (step) {
      event.preventDefault();
      go(row + step[0], column + step[1]);
    } else if (digit !== undefined && !event.ctrlKey && !event.metaKey && !event.altKey) {
      event.preventDefault();
      const to = reaches[Number(digit)];
      if (event.shiftKey) setRow(objects[row], to);
      else set(objects[row], operations[column], to);
    }
  };
  return (
    <table className="reach-table" role="grid" aria-label={`How far ${name} reaches`}>
      <thead>
        <tr>
          <th scope="col">
            <span className="visually-hidden">Of</span>
          </th>
          {operations.map((operation) => (
            <th key={operation} scope="col">
              {operationLabels[operation]}
            </th>
          ))}
        </tr>
      </thead>
      <tbody ref={body}>
        {objects.map((object, row) => (
          <tr key={object}>
            <th scope="row">{objectType(object).plural}</th>
            {operations.map((operation, column) => {
              if (!operationsOn(object).includes(operation)) return <td key={operation} />;
              const reach = reachOf(table, object, operation);
              const see = reachOf(table, object, 'see');
              const isChanged = reach !== reachOf(before, object, operation);
              const cell = `${object} ${operation}`;
              return (
                <td key={operation} role="gridcell">
                  <Dropdown
                    trigger={['click']}
                    open={opened === cell}
                    onOpenChange={(isOpen) => setOpened(isOpen ? cell : undefined)}
                    menu={{
                      selectedKeys: [reach],
                      items: reaches.map((each, digit) => ({
                        key: each,
                        label: reachLabels[each],
                        extra: <kbd>{digit}</kbd>,
                        disabled: operation !== 'see' && isWider(each, see),
                      })),
                      onClick: ({ key }) => set(object, operation, key as Reach),
                    }}
                  >
                    <button
                      type="button"
                      className={`reach reach-${reach} ${isChanged ? 'reach-changed' : ''}`}
                      tabIndex={at.row === row && at.column === column ? 0 : -1}
                      aria-label={`${objectType(object).plural}, ${operationLabels[operation]}: ${reachLabels[reach]}${isChanged ? ', changed' : ''}`}
                      onFocus={() => setAt({ row, column })}
                      onKeyDown={(event) => onKeyDown(event, row, column)}
                    >
                      {reachLabels[reach]}
                    </button>
                  </Dropdown>
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
