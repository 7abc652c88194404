import { useQuery } from '@tanstack/react-query';
import {
  ask,
  fiscalYearLabel,
  periodOf,
  toMajor,
  toMinor,
  type Colleague,
  type Day,
  type Question,
  type RecordOf,
  type Team,
} from '@zawn/core';
import { Button, InputNumber } from 'antd';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { useState, type ClipboardEvent, type KeyboardEvent } from 'react';
import { allRecords } from '../../platform/api/queries';
import { useNotices, useWrite } from '../../platform/api/use-write';
import { money, monthName, number } from '../../platform/frame/format';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { cellsIn } from './pasted-cells';
import './organisation.css';

type Target = RecordOf<'target'>;

const TARGETS: Question = { ...ask('target'), sort: [{ field: 'startsOn' }] };
const QUARTERS = 4;

/** Those who have a target: whoever sells, and whoever has one already. */
const whoSells = (people: readonly Colleague[], targets: readonly Target[]) =>
  people.filter(
    ({ id, active, sells }) => active && (sells === 'always' || targets.some(({ owner }) => owner === id)),
  );

/** A line of the table: the organisation, a team, or a person. */
interface Row {
  key: string;
  kind: 'all' | 'team' | 'person';
  name: string;
  owner: number | null;
  team: number | null;
}

/** The organisation first, then its teams, then those who sell. */
const rowsOf = (people: readonly Colleague[], teams: readonly Team[], targets: readonly Target[]): Row[] => [
  { key: 'all', kind: 'all', name: 'The organisation', owner: null, team: null },
  ...teams.map(({ id, name }): Row => ({ key: `team ${id}`, kind: 'team', name, owner: null, team: id })),
  ...whoSells(people, targets).map(({ id, name }): Row => ({
    key: `person ${id}`,
    kind: 'person',
    name,
    owner: id,
    team: null,
  })),
];

/** Moves the focus to the cell so many rows and columns away. */
function moveFrom(cell: HTMLElement, rows: number, columns: number): void {
  const at = cell.closest('td');
  const row = at?.parentElement as HTMLTableRowElement | null;
  const table = at?.closest('tbody');
  if (!at || !row || !table) return;
  const next = table.rows.item(row.rowIndex - 1 + rows)?.cells.item(at.cellIndex + columns);
  next?.querySelector('input')?.focus();
}

/** What the organisation, each team and each person is to win, a quarter of a fiscal year at a time: typed, or pasted from a spreadsheet. */
export function Component() {
  const { today, organisation, people, teams } = useSession();
  const { complain } = useNotices();
  const write = useWrite();
  const [year, setYear] = useState(0);
  const { data, error, refetch } = useQuery(allRecords(TARGETS));
  const { currency } = organisation;
  const targets = (data?.rows ?? []) as unknown as Target[];
  const { from } = periodOf('fiscalYear', today, organisation, year);
  const quarters: Day[] = Array.from(
    { length: QUARTERS },
    (_, index) => periodOf('fiscalQuarter', from, organisation, index).from,
  );
  const rows = rowsOf(people, teams, targets);
  const targetOf = ({ owner, team }: Row, startsOn: Day) =>
    targets.find((target) => target.owner === owner && target.team === team && target.startsOn === startsOn);
  /** Everything that is entered at once is one change, and undone as one. */
  const keep = (cells: { row: Row; startsOn: Day; amount: number | null }[]) =>
    write.mutate({
      method: 'POST',
      path: '/target-entries',
      body: {
        entries: cells.map(({ row: { owner, team }, startsOn, amount }) => ({
          owner,
          team,
          startsOn,
          amount: amount === null ? null : toMinor(amount, currency),
          currency,
        })),
      },
    });
  const paste = (event: ClipboardEvent, row: number, column: number) => {
    const cells = cellsIn(event.clipboardData.getData('text/plain'));
    if (cells.length === 1 && cells[0].length === 1) return;
    event.preventDefault();
    const fault = cells.flat().find((cell) => cell.amount === undefined);
    const isTooLarge =
      row + cells.length > rows.length || column + Math.max(...cells.map(({ length }) => length)) > QUARTERS;
    if (fault || isTooLarge) {
      complain(
        new Error(
          fault
            ? `“${fault.text}” is no amount. Nothing was entered.`
            : 'What was copied has more rows or columns than there is room for from here. Nothing was entered.',
        ),
      );
      return;
    }
    keep(
      cells.flatMap((line, down) =>
        line.map(({ amount }, right) => ({
          row: rows[row + down],
          startsOn: quarters[column + right],
          amount: amount ?? null,
        })),
      ),
    );
  };
  const move = (event: KeyboardEvent<HTMLInputElement>) => {
    const steps: Record<string, [number, number]> = { Enter: [1, 0], ArrowDown: [1, 0], ArrowUp: [-1, 0] };
    const step = steps[event.key];
    if (!step) return;
    event.preventDefault();
    event.currentTarget.blur();
    moveFrom(event.currentTarget, ...step);
  };
  const sellers = rows.filter(({ kind }) => kind === 'person');
  const amountOf = (row: Row, startsOn: Day) => {
    const known = targetOf(row, startsOn);
    return known && known.currency === currency ? toMajor(known.amount, currency) : undefined;
  };
  // Where nobody set a target there is no sum of none.
  const sum = (amounts: (number | undefined)[]) =>
    amounts.every((amount) => amount === undefined)
      ? '–'
      : money(
          toMinor(
            amounts.reduce<number>((all, amount) => all + (amount ?? 0), 0),
            currency,
          ),
          currency,
        );
  const yearName = fiscalYearLabel(from, organisation);
  return (
    <>
      <header className="page-head">
        <h1>Targets {yearName}</h1>
        <span className="page-count">in {currency}; type, or paste from a spreadsheet</span>
        <div className="page-tools">
          <Button
            icon={<ChevronLeft size={15} />}
            aria-label="The year before"
            onClick={() => setYear(year - 1)}
          />
          <Button
            icon={<ChevronRight size={15} />}
            aria-label="The year after"
            onClick={() => setYear(year + 1)}
          />
        </div>
      </header>
      {error ? (
        <Trouble error={error} retry={() => void refetch()} />
      ) : !data ? (
        <Skeleton rows={8} />
      ) : (
        <div className="target-table">
          <table>
            <thead>
              <tr>
                <th scope="col">Who</th>
                {quarters.map((quarter, index) => (
                  <th scope="col" key={quarter} className="figure">
                    Q{index + 1} <small className="second">from {monthName(quarter)}</small>
                  </th>
                ))}
                <th scope="col" className="figure">
                  Year
                </th>
              </tr>
            </thead>
            <tbody>
              {rows.map((row, at) => (
                <tr key={row.key} className={row.kind === 'person' ? '' : 'target-of-many'}>
                  <th scope="row">{row.name}</th>
                  {quarters.map((quarter, column) => {
                    const known = targetOf(row, quarter);
                    return (
                      <td key={`${quarter} ${known?.version ?? ''}`}>
                        <InputNumber<number>
                          variant="borderless"
                          controls={false}
                          keyboard={false}
                          min={0}
                          formatter={(value) => (`${value ?? ''}` === '' ? '' : number(Number(value)))}
                          parser={(text) => Number((text ?? '').replace(/[^\d.]/g, ''))}
                          defaultValue={amountOf(row, quarter)}
                          aria-label={`Target of ${row.name} from ${monthName(quarter)} ${quarter.slice(0, 4)}`}
                          onBlur={({ target }) => {
                            const text = target.value.replaceAll(',', '').trim();
                            if (text !== '' && !(Number(text) >= 0)) return;
                            const amount = text === '' ? null : Number(text);
                            if (amount !== (amountOf(row, quarter) ?? null))
                              keep([{ row, startsOn: quarter, amount }]);
                          }}
                          onKeyDown={move}
                          onPaste={(event) => paste(event, at, column)}
                        />
                      </td>
                    );
                  })}
                  <td className="figure">{sum(quarters.map((quarter) => amountOf(row, quarter)))}</td>
                </tr>
              ))}
            </tbody>
            <tfoot>
              <tr>
                <th scope="row">The people together</th>
                {quarters.map((quarter) => (
                  <td key={quarter} className="figure">
                    {sum(sellers.map((row) => amountOf(row, quarter)))}
                  </td>
                ))}
                <td className="figure">
                  {sum(sellers.flatMap((row) => quarters.map((quarter) => amountOf(row, quarter))))}
                </td>
              </tr>
            </tfoot>
          </table>
        </div>
      )}
    </>
  );
}
