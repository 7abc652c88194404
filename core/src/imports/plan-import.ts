import { fieldOf, type Catalogue, type FieldValue, type ObjectKey } from '../catalogue';
import { isCurrency } from '../money';
import { checkRecord, type Locale } from '../validation';
import { type ColumnMap } from './match-columns';
import { readCell, UnreadableCell, type CellReading } from './read-cell';
import { type Table, type TableRow } from './read-table';

/** Why a row stays out: which cell, and what is wrong with it. */
export interface Refusal {
  row: number;
  /** Index of the column; null when it concerns the row as a whole. */
  column: number | null;
  reason: string;
}

export interface PlannedRow {
  row: number;
  values: Record<string, FieldValue>;
}

/** What an import will do, row by row, before anything is written. */
export interface ImportPlan {
  create: PlannedRow[];
  /** Rows left alone because the record is there already, or stands twice in the file. */
  skipped: { row: number; reason: string }[];
  refused: Refusal[];
}

export interface ImportSettings {
  catalogue: Catalogue;
  object: ObjectKey;
  columns: ColumnMap;
  /** Values for fields that no column fills: the owner, the status. */
  defaults: Record<string, FieldValue>;
  locale: Locale;
  reading: CellReading;
  /** Identities (see `identityOf`) of the records that are there already. */
  known: ReadonlySet<string>;
}

/** What makes a row the same record as another: its mail, else its name together with its organisation. */
export function identityOf(values: Readonly<Record<string, FieldValue>>): string {
  const { email, name, organisation } = values as Record<string, string | null>;
  return (email ?? `${name ?? ''} · ${organisation ?? ''}`).toLowerCase();
}

function readRow({ row, cells }: TableRow, headings: readonly string[], settings: ImportSettings) {
  const refusals: Refusal[] = [];
  const values: Record<string, FieldValue> = { ...settings.defaults };
  const columnOf = new Map<string, number>();
  const named = settings.columns.indexOf('currency');
  const written = named < 0 ? '' : (cells[named] ?? '').toUpperCase();
  const currency = isCurrency(written) ? written : settings.reading.currency;
  for (const [column, key] of settings.columns.entries()) {
    const field = key === null ? undefined : fieldOf(settings.catalogue, settings.object, key);
    if (key === null || !field) continue;
    columnOf.set(key, column);
    try {
      const value = readCell(field, cells[column] ?? '', { ...settings.reading, currency });
      if (value !== null) values[key] = value;
      if (field.type === 'money' && value !== null && field.currency) values[field.currency] ??= currency;
    } catch (error) {
      if (!(error instanceof UnreadableCell)) throw error;
      refusals.push({ row, column, reason: `${headings[column]}: ${error.message}` });
    }
  }
  const { object, locale, catalogue } = settings;
  const checked = checkRecord({ object, purpose: 'create', setter: 'hand', locale, catalogue }, values);
  for (const { field, message } of checked.faults) {
    const column = columnOf.get(field) ?? null;
    if (refusals.some((refusal) => refusal.column === column && column !== null)) continue;
    refusals.push({ row, column, reason: message });
  }
  return { values: checked.value, refusals };
}

/**
 * Decides for every row whether it is created, skipped or refused, and why. A row with more or fewer cells than
 * the heading row is refused: its values cannot be trusted to stand in the right column.
 */
export function planImport(table: Table, settings: ImportSettings): ImportPlan {
  const plan: ImportPlan = { create: [], skipped: [], refused: [] };
  const seen = new Map<string, number>();
  for (const line of table.rows) {
    const { row, cells } = line;
    if (cells.length !== table.headings.length) {
      const reason = `The row has ${cells.length} cells, the heading row ${table.headings.length}`;
      plan.refused.push({ row, column: null, reason });
      continue;
    }
    const { values, refusals } = readRow(line, table.headings, settings);
    if (!values || refusals.length > 0) {
      plan.refused.push(...refusals);
      continue;
    }
    const identity = identityOf(values);
    const named = String(values.email ?? values.name);
    const twin = seen.get(identity);
    if (twin !== undefined) plan.skipped.push({ row, reason: `${named} stands in row ${twin} already` });
    else if (settings.known.has(identity)) plan.skipped.push({ row, reason: `${named} is there already` });
    else plan.create.push({ row, values });
    seen.set(identity, twin ?? row);
  }
  return plan;
}
