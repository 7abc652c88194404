import Papa from 'papaparse';
import { type Refusal } from './read-rows';
import { type Table } from './table';

/**
 * The refused rows in the shape of the original file, with why in a last column, as CSV. Cells that a spreadsheet
 * would run as a formula are written safely.
 */
export function refusedFile(table: Table, refused: readonly Refusal[]): string {
  const reasons = new Map<number, string[]>();
  for (const { row, reason } of refused) reasons.set(row, [...(reasons.get(row) ?? []), reason]);
  const data = table.rows
    .filter(({ row }) => reasons.has(row))
    .map(({ row, cells }) => [
      // A row that was too short is filled up, so that the reason stands in its own column.
      ...Array.from(
        { length: Math.max(table.headings.length, cells.length) },
        (_, index) => cells[index] ?? '',
      ),
      reasons.get(row)?.join('; ') ?? '',
    ]);
  return Papa.unparse([[...table.headings, 'Reason'], ...data], {
    escapeFormulae: true,
    delimiter: table.delimiter?.value ?? ',',
  });
}
