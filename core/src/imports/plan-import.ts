import {
  fieldOf,
  fieldsOf,
  isSetType,
  objectType,
  type AnyRecord,
  type Catalogue,
  type Field,
  type FieldValue,
  type ObjectKey,
} from '../catalogue';
import { isCurrency } from '../money';
import { ManyRecordsCheck, type Locale } from '../validation';
import { readCell, UnreadableCell, type CellReading } from './read-cell';
import { matchInWords, matchKeys, type ImportSetup, type MatchKey } from './setup';
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
interface ReadPart {
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
}

/** What is on file, asked by a key that rows were recognised by. */
export interface OnFile {
  /** Records with this key, as `keyText` writes it, the oldest first. */
  find(object: TargetKey, key: MatchKey, text: string): readonly KnownRecord[];
}

export interface KnownRecord {
  record: AnyRecord;
  /** The name of the record’s account. */
  accountName?: string;
}

/** A link to a record on file, or to one that this import makes, by its place among `others`. */
export type PlannedLink = { id: number } | { made: number };

/** One record that the import writes. */
export interface PlannedWrite {
  row: number;
  object: TargetKey;
  does: 'create' | 'update';
  /** The record updated, as it is. */
  known?: AnyRecord;
  /** For an update only what changes. */
  values: Values;
  links: Readonly<Record<string, PlannedLink>>;
  /** By what it was recognised. */
  why?: string;
}

/** A row that writes nothing. */
export interface LeftRow {
  row: number;
  reason: string;
  id?: number;
}

/** What an import will do, row by row, before anything is written. Every row is in exactly one of the lists. */
export interface ImportPlan {
  create: PlannedWrite[];
  update: PlannedWrite[];
  /** There already, just as the row says. */
  same: LeftRow[];
  /** There already and left alone, or twice in the file. */
  skipped: LeftRow[];
  refused: Refusal[];
  /** Accounts and contacts written beside the main records, before them. */
  others: PlannedWrite[];
}

/** A name without regard to case, accents and runs of spaces. */
const fold = (text: FieldValue | undefined) =>
  String(text ?? '')
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/\s+/g, ' ')
    .trim();

/** A record’s key of a kind as it is looked up; undefined when it has none. */
export function keyText(key: MatchKey, values: Values): string | undefined {
  const value = values[key];
  if (value === null || value === undefined || value === '') return undefined;
  return key === 'externalId' ? String(value) : fold(value);
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
function currencyOf(columns: readonly Column[], cells: readonly string[], usual: string): string {
  const named = columns.find(({ fillable }) => fillable.field.type === 'currency');
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
  const meant = Object.hasOwn(meanings, path) ? meanings[path][text.toLowerCase()] : undefined;
  if (meant !== undefined) return isSetType(field.type) && meant !== null ? [String(meant)] : meant;
  if (object === 'lead' && field.type === 'choice' && text.toLowerCase() === 'converted') {
    throw new UnreadableCell('A lead becomes converted by converting it', text);
  }
  if (field.type === 'link' && field.to !== 'person') {
    const found = named[field.to as ObjectKey]?.find(({ name }) => fold(name) === fold(text));
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
    const place = new Map<string, number>();
    const partOf = (object: ObjectKey): ReadPart => ({ object: object as TargetKey, values: {}, blank: [] });
    const main = partOf(target.key);
    const others = new Map<Part, ReadPart>();
    const currency = currencyOf(columns, cells, around.currency);
    const reading: CellReading = { people, currency, dates: setup.dates, decimal: setup.decimal };
    for (const { index, fillable } of columns) {
      const { part, key, field, path } = fillable;
      let into = main;
      if (part) {
        into = others.get(part) ?? partOf(part.object);
        others.set(part, into);
      }
      place.set(path, index);
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

/** Who sets the fields of an imported record: what an activity came to is set by a file, though not by hand. */
export const setterOf = (object: TargetKey) => (object === 'activity' ? 'feature' : 'hand');

/** What the file says in every field by which rows may be recognised, by object and kind of key. */
export function wantedKeys(
  { rows }: ReadRows,
  setup: ImportSetup,
): Map<TargetKey, Map<MatchKey, Set<string>>> {
  const wanted = new Map<TargetKey, Map<MatchKey, Set<string>>>();
  const add = ({ object, values }: ReadPart, keys: readonly MatchKey[]) => {
    for (const key of keys) {
      if (keyText(key, values) === undefined) continue;
      const text = String(values[key]);
      const ofObject = wanted.get(object) ?? new Map<MatchKey, Set<string>>();
      wanted.set(object, ofObject.set(key, (ofObject.get(key) ?? new Set()).add(text)));
    }
  };
  for (const { main, others } of rows) {
    add(main, setup.match);
    for (const other of Object.values(others)) if (other) add(other, matchKeys[other.object]);
  }
  return wanted;
}

const sameOrUnknown = (a: FieldValue | undefined, b: FieldValue | undefined) =>
  fold(a) === '' || fold(b) === '' || fold(a) === fold(b);

/** Whether a record of the same name is the one a row means: the same organisation behind it, the same day. */
function isMeant(
  object: TargetKey,
  values: Values,
  accountName: string,
  { record, ...known }: KnownRecord,
): boolean {
  switch (object) {
    case 'lead':
      return sameOrUnknown(values.organisation, record.organisation);
    case 'contact':
    case 'deal':
      return sameOrUnknown(accountName, known.accountName);
    case 'activity':
      return values.dueOn === record.dueOn && values.kind === record.kind;
    default:
      return true;
  }
}

interface Recognised {
  known: AnyRecord;
  key: MatchKey;
}

const isSame = (a: FieldValue | undefined, b: FieldValue | undefined) =>
  JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

/**
 * Decides for every row whether it creates, updates, changes nothing, is skipped or refused, and why. The same
 * import again, once carried out, creates and updates nothing.
 */
export function planImport(
  { rows, refused }: ReadRows,
  setup: ImportSetup,
  onFile: OnFile,
  around: ImportSurroundings,
): ImportPlan {
  const { catalogue } = around;
  const target = targetOf(setup.target);
  const plan: ImportPlan = {
    create: [],
    update: [],
    same: [],
    skipped: [],
    refused: [...refused],
    others: [],
  };
  /** The first row with a key, to tell rows that repeat each other. */
  const seen = new Map<string, number>();
  /** Records beside the main ones, by their keys, so that each is made once however many rows name it. */
  const made = new Map<string, number>();

  const recognise = (
    part: ReadPart,
    keys: readonly MatchKey[],
    accountName: string,
  ): Recognised | undefined => {
    for (const key of keys) {
      const text = keyText(key, part.values);
      if (text === undefined) continue;
      const known = onFile
        .find(part.object, key, text)
        .find((each) => key !== 'name' || isMeant(part.object, part.values, accountName, each));
      if (known) return { known: known.record, key };
    }
    return undefined;
  };

  /** What the row would change of a record that is there. */
  const changesOf = (
    { values, blank, object }: ReadPart,
    known: AnyRecord,
    tags: readonly string[],
  ): Values => {
    const changes: Values = {};
    const wanted: Values = { ...values };
    if (tags.length > 0) wanted.tags = [...tags, ...((values.tags as string[] | undefined) ?? [])];
    for (const [key, value] of Object.entries(wanted)) {
      const field = fieldOf(catalogue, object, key);
      const next =
        field && isSetType(field.type) && (setup.several === 'add' || (key === 'tags' && !(key in values)))
          ? union(known[key], value)
          : value;
      if (!isSame(next, known[key])) changes[key] = next;
    }
    if (setup.blanks === 'clear')
      for (const key of blank)
        if (!fieldOf(catalogue, object, key)?.required && !isSame(known[key], null)) changes[key] = null;
    return changes;
  };

  const newValues = ({ object, values }: ReadPart, tags: readonly string[]): Values => {
    const complete: Values = { ...around.defaults[object], ...values };
    if (tags.length > 0) complete.tags = union(values.tags, tags);
    if (object === 'deal' && values.stage !== undefined) {
      const stage = around.named.stage?.find(({ id }) => id === values.stage);
      if (stage?.pipeline) complete.pipeline = values.pipeline ?? stage.pipeline;
    }
    if (object === 'deal' || values.budget !== undefined) complete.currency ??= around.currency;
    if (object === 'activity' && complete.doneAt) {
      complete.doneBy ??= complete.owner;
      complete.dueOn ??= String(complete.doneAt).slice(0, 10);
    }
    return complete;
  };

  const missing = (object: TargetKey, values: Values, row: number): Refusal[] =>
    fieldsOf(catalogue, object)
      .filter(([key, field]) => isNeeded(field) && (values[key] ?? null) === null && key !== 'owner')
      .map(([, { label }]) => ({
        row,
        column: null,
        reason: `${object === target.key ? '' : `${objectType(object).label}: `}${label} is missing`,
      }));

  const ownerFault = (values: Values, row: number): Refusal[] =>
    around.owners === undefined || values.owner === undefined || around.owners.includes(Number(values.owner))
      ? []
      : [{ row, column: null, reason: 'You cannot give records to this owner' }];

  /** Links to the records beside the main one, planning those that are not there; undefined when one cannot be. */
  const linksOf = ({
    row,
    main,
    others,
  }: ReadRow): { links: Record<string, PlannedLink>; faults: Refusal[] } => {
    const links: Record<string, PlannedLink> = {};
    const faults: Refusal[] = [];
    const accountName = String(others.account?.values.name ?? '');
    for (const part of target.parts) {
      const other = others[part.link];
      if (!other) continue;
      const found = recognise(other, matchKeys[other.object], accountName);
      const { object } = other;
      if (found) {
        links[part.link] = { id: found.known.id };
        const changes = part.isMade && setup.onMatch === 'update' ? changesOf(other, found.known, []) : {};
        // The first row that says something about a record beside the main ones is believed.
        const once = `known ${object} ${found.known.id}`;
        if (Object.keys(changes).length > 0 && !made.has(once)) {
          made.set(once, plan.others.length);
          plan.others.push({ row, object, does: 'update', known: found.known, values: changes, links: {} });
        }
        continue;
      }
      if (!part.isMade) {
        const [name] = Object.values(other.values);
        const { label } = objectType(object);
        faults.push({
          row,
          column: null,
          reason: `There is no ${label.toLowerCase()} “${String(name)}” on file`,
        });
        continue;
      }
      const keys = matchKeys[object].flatMap((key) => {
        const text = keyText(key, other.values);
        if (text === undefined) return [];
        return [
          `${object} ${key} ${key === 'name' && object !== 'account' ? `${text} · ${fold(accountName)}` : text}`,
        ];
      });
      const earlier = keys.map((key) => made.get(key)).find((place) => place !== undefined);
      if (earlier !== undefined) {
        const { values } = plan.others[earlier];
        // Later rows fill in what earlier ones left open.
        for (const [key, value] of Object.entries(other.values)) values[key] ??= value;
      } else {
        const values = newValues(other, []);
        if (main.values.owner !== undefined) values.owner = main.values.owner;
        faults.push(...missing(object, values, row));
        plan.others.push({ row, object, does: 'create', values, links: {} });
      }
      const place = earlier ?? plan.others.length - 1;
      for (const key of keys) made.set(key, place);
      links[part.link] = { made: place };
    }
    // A new contact beside a deal belongs to the row’s account.
    const { contact, account } = links;
    if (contact && 'made' in contact && account && target.key !== 'contact') {
      const write = plan.others[contact.made];
      plan.others[contact.made] = { ...write, links: { account } };
    }
    return { links, faults };
  };

  const twinOf = ({ row, main, others }: ReadRow): number | undefined => {
    const keys = setup.match.flatMap((key) => {
      const text = keyText(key, main.values);
      if (text === undefined) return [];
      const { organisation, dueOn, kind } = main.values;
      const named = Object.values(others).map((other) => other?.values.name ?? other?.values.number);
      const beside = key === 'name' ? [organisation, dueOn, kind, ...named].map(fold).join(' · ') : '';
      return [`${key} ${text} ${beside}`];
    });
    // Who has a mail is told apart by it: the same name with another mail is another person.
    const decisive = keys.slice(0, 1);
    const earlier = decisive.map((key) => seen.get(key)).find((first) => first !== undefined);
    for (const key of keys) if (!seen.has(key)) seen.set(key, row);
    return earlier;
  };

  for (const read of rows) {
    const { row, main } = read;
    const { nameField } = objectType(main.object);
    const named = String(main.values.email ?? main.values[nameField] ?? `Row ${row}`);
    const twin = setup.onMatch === 'create' ? undefined : twinOf(read);
    if (twin !== undefined) {
      plan.skipped.push({ row, reason: `${named} stands in row ${twin} already` });
      continue;
    }
    const found =
      setup.onMatch === 'create'
        ? undefined
        : recognise(main, setup.match, String(read.others.account?.values.name ?? ''));
    const why = found && matchInWords[found.key];
    if (found && (setup.onMatch === 'skip' || found.known.convertedAt)) {
      const reason = found.known.convertedAt ? 'was converted and is read-only' : `is there already, ${why}`;
      plan.skipped.push({ row, reason: `${named} ${reason}`, id: found.known.id });
      continue;
    }
    const values = found ? changesOf(main, found.known, setup.tags) : newValues(main, setup.tags);
    const faults = [...ownerFault(values, row), ...(found ? [] : missing(main.object, values, row))];
    const { links, faults: others } = faults.length > 0 ? { links: {}, faults: [] } : linksOf(read);
    faults.push(...others);
    if (faults.length > 0) {
      plan.refused.push(...faults);
      continue;
    }
    if (!found) {
      plan.create.push({ row, object: main.object, does: 'create', values, links });
      continue;
    }
    const linked = Object.entries(links).filter(([link, to]) => !('id' in to) || to.id !== found.known[link]);
    if (Object.keys(values).length === 0 && linked.length === 0) {
      plan.same.push({ row, reason: `${named} is there just like this`, id: found.known.id });
      continue;
    }
    plan.update.push({
      row,
      object: main.object,
      does: 'update',
      known: found.known,
      values,
      links: Object.fromEntries(linked),
      why,
    });
  }
  return plan;
}

const isNeeded = (field: Field) => field.required === true && (field.set ?? 'edit') !== 'feature';

/** The members of both sets, in the order of their letters. */
function union(one: FieldValue | undefined, other: FieldValue): FieldValue {
  const all = [...new Set([...((one ?? []) as string[]), ...((other ?? []) as string[])])];
  return all.length === 0 ? null : all.sort((a, b) => (a < b ? -1 : 1));
}
