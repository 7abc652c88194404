import { objectType, type ObjectKey } from '@zawn/core';
import { type ChangeRow, type StagePeriodRow } from '../platform/database/rows';

export type Row = Record<string, string | number | boolean | null>;
/** What fields changed to: a list where they hold several choices. */
export type Changed = Record<string, Row[string] | readonly string[]>;

/** The rows of one table, numbered as they come. */
class Shelf {
  rows: Row[] = [];
  /** Rows of the pages turned already, which are no longer here. */
  before = 0;

  add(row: Row): number {
    const id = this.before + this.rows.length + 1;
    this.rows.push({ id, ...row });
    return id;
  }
}

export interface Happening {
  at: string;
  person: number | null;
  through?: 'hand' | 'import' | 'conversion';
}

/**
 * The demo company as rows. What the door would have logged, had the two years really been lived through it,
 * is written along: units, changes and stage periods.
 */
export class Book {
  private readonly shelves = new Map<string, Shelf>();
  /** The content of files, by its fingerprint. */
  readonly files = new Map<string, Uint8Array>();

  /** @param unlogged objects whose log is left out, where it would be most of the book. */
  constructor(private readonly unlogged: ReadonlySet<ObjectKey> = new Set()) {}

  /** The rows of a table so far. */
  rows(table: string): Row[] {
    return this.shelf(table).rows;
  }

  /** The tables that were written to. */
  tables(): string[] {
    return [...this.shelves.keys()];
  }

  row(table: string, id: number): Row {
    const { rows, before } = this.shelf(table);
    return rows[id - 1 - before];
  }

  /** How many rows a table has had so far, on all pages. */
  count(table: string): number {
    const { rows, before } = this.shelf(table);
    return before + rows.length;
  }

  /** Forgets the rows so far, which were laid down, and goes on numbering where they end. */
  turnPage(): void {
    for (const shelf of this.shelves.values()) {
      shelf.before += shelf.rows.length;
      shelf.rows = [];
    }
  }

  /** A row of a table that is not a record. */
  add(table: string, row: Row): number {
    return this.shelf(table).add(row);
  }

  /** A row of a table that does not number its rows. */
  put(table: string, row: Row): void {
    this.shelf(table).rows.push(row);
  }

  /** A record that came to be at a moment. */
  create(object: ObjectKey, { at, person, through = 'hand' }: Happening, values: Row): number {
    const isLogged = !this.unlogged.has(object);
    const unit = isLogged ? this.unit({ at, person, through }, `Created ${inWords(object, values)}`) : 0;
    return this.createIn(unit, object, { at, person, through }, values);
  }

  /** A record that came to be in a unit in which something else happened too, such as a line with its deal. */
  createIn(
    unit: number,
    object: ObjectKey,
    { at, person, through = 'hand' }: Happening,
    values: Row,
  ): number {
    const head = { version: 1, createdAt: at, createdBy: person, updatedAt: at, deletedAt: null };
    const record = this.add(object, { ...head, ...values });
    if (this.unlogged.has(object)) return record;
    this.log({
      unit,
      at,
      person,
      through,
      object,
      record,
      kind: 'created',
      field: null,
      old: null,
      new: null,
    });
    return record;
  }

  /** Fields of a record that changed at a later moment. Returns the unit it happened in; 0 when nothing is different. */
  change(
    object: ObjectKey,
    record: number,
    { at, person, through = 'hand' }: Happening,
    values: Changed,
  ): number {
    const row = this.row(object, record);
    // The log tells a list as it is, its column holds it as text.
    const asText = (value: Changed[string]) =>
      typeof value === 'object' && value !== null ? JSON.stringify(value) : value;
    const columns: Row = Object.fromEntries(
      Object.entries(values).map(([field, value]) => [field, asText(value)]),
    );
    if (Object.entries(columns).every(([field, value]) => row[field] === value)) return 0;
    const isLogged = !this.unlogged.has(object);
    const unit = isLogged ? this.unit({ at, person, through }, `Changed ${inWords(object, row)}`) : 0;
    for (const [field, value] of Object.entries(values)) {
      if (row[field] === columns[field] || !isLogged) continue;
      const entry = { field, old: JSON.stringify(row[field]), new: JSON.stringify(value) };
      this.log({ unit, at, person, through, object, record, kind: 'changed', ...entry });
    }
    // What the story tells later may have happened before.
    const updatedAt = at > String(row.updatedAt) ? at : row.updatedAt;
    Object.assign(row, columns, { version: Number(row.version) + 1, updatedAt });
    return unit;
  }

  period(period: Omit<StagePeriodRow, 'id'>): Row {
    return this.row('stagePeriod', this.add('stagePeriod', { ...period }));
  }

  private unit({ at, person, through = 'hand' }: Happening, label: string): number {
    return this.add('unit', {
      at,
      person,
      through,
      label,
      undoneBy: null,
    });
  }

  private log(entry: Omit<ChangeRow, 'id'>): void {
    this.add('change', { ...entry });
  }

  private shelf(table: string): Shelf {
    let shelf = this.shelves.get(table);
    if (!shelf) {
      shelf = new Shelf();
      this.shelves.set(table, shelf);
    }
    return shelf;
  }
}

/** A record in words, as the notice of its writing would name it. */
function inWords(object: ObjectKey, row: Row): string {
  const { label, nameField } = objectType(object);
  return `${label.toLowerCase()} “${String(row[nameField]).slice(0, 80)}”`;
}
