import {
  objectType,
  isSetType,
  type Catalogue,
  type FieldValue,
  type ObjectKey,
} from '../../kernel/catalogue';
import { isCurrency } from '../../platform/money';
import { ManyRecordsCheck, type Locale } from '../../kernel/validation';
import { nameKey } from './name-key';
import { readCell, UnreadableCell, type CellReading } from './read-cell';
import { type ImportSetup } from './setup';
import { type Table, type TableRow } from './table';
import { fillableFields, targetOf, type FillableField, type Part, type TargetKey } from './targets';

export type Values = Record<string, FieldValue>;

/** Why a row stays out: which cell, and what is wrong with it. */
export interface Refusal {
  row: number;
  /** Index of the column; null when it concerns the row as a whole. */
  column: number | null;
  reason: string;
  /** A text that could be pointed at a choice or a person once for the whole file. */
  unknown?: string;
}

/** What is read of one record in a row: its normalised values, and which of its fields were left empty. */
export interface ReadPart {
  object: TargetKey;
  values: Values;
  blank: string[];
}

/** A row as far as it can be read without knowing what is on file. */
export interface ReadRow {
  row: number;
  main: ReadPart;
  /** The other records of the row by their link, those with nothing in them left out. */
  others: Partial<Record<string, ReadPart>>;
}

export interface ReadRows {
  rows: ReadRow[];
  refused: Refusal[];
}

export interface ImportSurroundings {
  catalogue: Catalogue;
  locale: Locale;
  /** The reporting currency. */
  currency: string;
  /** Records that a cell can name: people, pipelines, stages. */
  named: Readonly<
    Partial<Record<ObjectKey, readonly { id: number; name: string; email?: string; pipeline?: number }[]>>
  >;
  /** People that the importing person can give records to; everyone when undefined. */
  owners: readonly number[] | undefined;
  /** Values of new records that no column fills. */
  defaults: Readonly<Record<TargetKey, Values>>;
  today: string;
  /** The organisation’s, in which times without an offset are meant. */
  timeZone: string;
}

interface Column {
  index: number;
  fillable: FillableField;
}

/** The columns that fill a field, with their fields. */
function columnsOf(setup: ImportSetup, catalogue: Catalogue): Column[] {
  const fields = new Map(fillableFields(catalogue, targetOf(setup.target)).map((each) => [each.path, each]));
  return setup.columns.flatMap((path, index) => {
    const fillable = path === null ? undefined : fields.get(path);
    return fillable ? [{ index, fillable }] : [];
  });
}

/** The currency of a row’s money: its own column’s, or the reporting one. */
function currencyOf(named: Column | undefined, cells: readonly string[], usual: string): string {
  const written = named ? (cells[named.index] ?? '').toUpperCase() : '';
  return isCurrency(written) ? written : usual;
}

function valueOf(
  { path, field, object }: FillableField,
  text: string,
  reading: CellReading,
  { named }: ImportSurroundings,
  meanings: ImportSetup['meanings'],
): FieldValue {
  if (text === '') return null;
  const meant = Object.hasOwn(meanings, path) ? meanings[path][text.toLowerCase()] : undefined;
  if (meant !== undefined) return isSetType(field.type) && meant !== null ? [String(meant)] : meant;
  if (object === 'lead' && field.type === 'choice' && text.toLowerCase() === 'converted') {
    throw new UnreadableCell('A lead becomes converted by converting it', text);
  }
  if (field.type === 'link' && field.to !== 'person') {
    const found = named[field.to as ObjectKey]?.find(({ name }) => nameKey(name) === nameKey(text));
    if (found) return found.id;
    throw new UnreadableCell(
      `there is no ${objectType(field.to as ObjectKey).label.toLowerCase()} “${text}”`,
      text,
    );
  }
  return readCell(field, text, reading);
}

/** Reads what each row says, cell by cell, as far as that needs no look at what is on file. */
export function readRows(table: Table, setup: ImportSetup, around: ImportSurroundings): ReadRows {
  const { catalogue, locale } = around;
  const columns = columnsOf(setup, catalogue);
  const target = targetOf(setup.target);
  const people = (around.named.person ?? []).map(({ id, name, email = '' }) => ({ id, name, email }));
  /** The column that fills a path, where faults are pointed out. */
  const place = new Map(columns.map(({ index, fillable }) => [fillable.path, index]));
  const currencies = columns.find(({ fillable }) => fillable.field.type === 'currency');
  const read: ReadRows = { rows: [], refused: [] };

  const checks = new Map<TargetKey, ManyRecordsCheck>();
  const checkOf = (object: TargetKey) => {
    const known = checks.get(object);
    if (known) return known;
    const setter = setterOf(object);
    const check = new ManyRecordsCheck({ object, purpose: 'change', setter, locale, catalogue });
    checks.set(object, check);
    return check;
  };

  const readRow = ({ row, cells }: TableRow) => {
    const faults: Refusal[] = [];
    const partOf = (object: ObjectKey): ReadPart => ({ object: object as TargetKey, values: {}, blank: [] });
    const main = partOf(target.key);
    const others = new Map<Part, ReadPart>();
    const currency = currencyOf(currencies, cells, around.currency);
    const { dates, decimal } = setup;
    const reading: CellReading = { people, currency, dates, decimal, timeZone: around.timeZone };
    for (const { index, fillable } of columns) {
      const { part, key, field } = fillable;
      let into = main;
      if (part) {
        into = others.get(part) ?? partOf(part.object);
        others.set(part, into);
      }
      try {
        const value = valueOf(fillable, cells[index] ?? '', reading, around, setup.meanings);
        if (value === null) into.blank.push(key);
        else into.values[key] = value;
        if (field.type === 'money' && value !== null && field.currency)
          into.values[field.currency] ??= currency;
      } catch (error) {
        if (!(error instanceof UnreadableCell)) throw error;
        const { unknown } = error;
        faults.push({
          row,
          column: index,
          reason: `${table.headings[index] || fillable.label}: ${error.message}`,
          ...(unknown === undefined ? {} : { unknown }),
        });
      }
    }
    const check = (part: ReadPart, prefix: string) => {
      const checked = checkOf(part.object).of(part.values);
      if (checked.value) part.values = checked.value;
      for (const { field, message } of checked.faults) {
        const column = place.get(prefix + field) ?? null;
        if (faults.some((fault) => fault.column === column && column !== null)) continue;
        faults.push({ row, column, reason: message });
      }
    };
    check(main, '');
    for (const [part, each] of others) check(each, `${part.link}.`);
    const filled = [...others].filter(([, { values }]) => Object.keys(values).length > 0);
    return {
      faults,
      read: { row, main, others: Object.fromEntries(filled.map(([part, each]) => [part.link, each])) },
    };
  };

  for (const line of table.rows) {
    if (line.cells.length !== table.headings.length) {
      const reason = `The row has ${line.cells.length} cells, the heading row ${table.headings.length}`;
      read.refused.push({ row: line.row, column: null, reason });
      continue;
    }
    const { faults, read: row } = readRow(line);
    if (faults.length > 0) read.refused.push(...faults);
    else read.rows.push(row);
  }
  return read;
}

/** Who sets the fields of an imported record: what an activity or a deal came to is set by a file, though not by hand. */
export const setterOf = (object: TargetKey) =>
  object === 'activity' || object === 'deal' ? 'feature' : 'hand';
