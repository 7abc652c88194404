import type ExcelJS from 'exceljs';
import { dayIn, timeIn, type Actor, type ExportCell, type ExportNames, type Names } from '@zawn/core';
import { type Gate } from '../../kernel/questions/gate';

/** The names of what everyone in the organisation knows: `person 3`. */
export async function knownNames(gate: Gate, actor: Actor): Promise<ReadonlyMap<string, string>> {
  const known = new Map<string, string>();
  for (const object of ['person', 'stage', 'pipeline', 'team', 'list'] as const) {
    const { rows } = await gate.records(actor, { version: 1, object }, { offset: 0, limit: 5000 });
    for (const { id, name } of rows) known.set(`${object} ${id}`, String(name));
  }
  return known;
}

/** Names of work records as they were answered, and of what everyone knows. */
export const namesIn = (names: Names, known: ReadonlyMap<string, string>): ExportNames => ({
  nameOf: (object, id) => names[object]?.[id] ?? known.get(`${object} ${id}`) ?? '',
  listName: (id) => known.get(`list ${id}`) ?? '',
});

/** A cell as the value a spreadsheet computes with. Text is never a formula. */
export function typedCell(cell: ExportCell, timeZone: string): ExcelJS.CellValue {
  switch (cell.type) {
    case 'empty':
      return null;
    case 'text':
      return cell.text;
    case 'number':
      return cell.number;
    case 'date':
      return new Date(`${cell.day}T00:00:00Z`);
    case 'dateTime':
      return new Date(`${dayIn(timeZone, cell.instant)}T${timeIn(timeZone, cell.instant)}:00Z`);
    case 'yesNo':
      return cell.isYes;
  }
}
