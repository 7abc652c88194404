import {
  objectType,
  isSetType,
  type Catalogue,
  type Field,
  type FieldValue,
  type ObjectKey,
} from '../../kernel/catalogue';
import { currencySign } from '../../platform/money';
import { countryCode, ManyRecordsCheck, normaliseMail, type Locale } from '../../kernel/validation';
import { saysNothing } from './cell-words';
import { isNameParticle, joinName, splitName, type PersonName } from '../people/person-name';
import { flippedName, joinCells, joinOrder } from './join-cells';
import { nameKey } from './name-key';
import { FAMILY, GIVEN, MIDDLE, nameRole } from './name-roles';
import { outcomeInStage } from './outcome-stage';
import { currencyIn, readCell, UnreadableCell, type CellReading } from './read-cell';
import { strongKeys, type ImportSetup } from './setup';
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
  /** The cell alone is left out; it keeps no row out. */
  isLeftEmpty?: true;
}

/** What is read of one record in a row: its normalised values, and which of its fields were left empty. */
export interface ReadPart {
  object: TargetKey;
  values: Values;
  blank: string[];
  /** By what it is recognised and is never written, such as Zawn’s own id. */
  keys?: Values;
  /** The currency fields that no cell said anything for: what the file’s amounts are taken to be in. */
  assumed: string[];
}

/** A row as far as it can be read without knowing what is on file. */
export interface ReadRow {
  row: number;
  main: ReadPart;
  /** The other records of the row by their link, those with nothing in them left out. */
  others: Partial<Record<string, ReadPart>>;
  /** Cells that could not be read and were left empty. */
  notes?: Refusal[];
  /** What keeps a row out that says a lead is converted, unless that very lead is. */
  unlessConverted?: Refusal;
}

export interface ReadRows {
  rows: ReadRow[];
  refused: Refusal[];
}

export interface ImportSurroundings {
  /** The fields that the importing person sees. */
  catalogue: Catalogue;
  /** Every field there is, for what new records begin with; those that are seen when left out. */
  everyField?: Catalogue;
  /** The keys of fields that the person sees and may not change; none when left out. */
  locked?: (object: ObjectKey) => ReadonlySet<string>;
  locale: Locale;
  /** The reporting currency. */
  currency: string;
  /** It, and those there is a rate for: among them a sign such as `$` or `kr` is looked for. */
  currencies?: readonly string[];
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

/** What fills a field: one column, or several that are joined. */
interface Column {
  /** Where it stands; of several, in the order in which they are joined. */
  indexes: readonly number[];
  fillable: FillableField;
}

/** The columns that fill a field, with their fields. */
function columnsOf(setup: ImportSetup, catalogue: Catalogue, headings: readonly string[]): Column[] {
  const fields = new Map(fillableFields(catalogue, targetOf(setup.target)).map((each) => [each.path, each]));
  const filled = new Map<string, number[]>();
  for (const [index, path] of setup.columns.entries())
    if (path !== null && fields.has(path)) filled.set(path, [...(filled.get(path) ?? []), index]);
  return [...filled].flatMap(([path, indexes]) => {
    const fillable = fields.get(path);
    return fillable ? [{ fillable, indexes: joinOrder(indexes, headings) }] : [];
  });
}

/** What a column of the row says about the money of its amounts. */
interface NamedCurrency {
  code?: string;
  /** What stands there and could not be told. */
  unclear?: string;
}

/** The currency that a column of the row names, by its code or its sign. */
function currencyNamed(
  column: Column | undefined,
  cells: readonly string[],
  used: readonly string[],
): NamedCurrency {
  const text = column ? (cells[column.indexes[0]] ?? '') : '';
  if (!column || text === '' || saysNothing(column.fillable.field, text)) return {};
  const { currencies = [] } = currencySign(text) ?? {};
  const meant = currencies.length === 1 ? currencies : currencies.filter((each) => used.includes(each));
  return meant.length === 1 ? { code: meant[0] } : { unclear: text };
}

/** The country that a row names for a record; the organisation’s when it names none. */
const countryOf = ({ country }: Values, usual: string) =>
  typeof country === 'string' ? (countryCode(country) ?? usual) : usual;

/** Whether a cell of a field that cannot be read keeps its row out. */
export function keepsOut({ path, object, key, field }: FillableField, { bad, target }: ImportSetup): boolean {
  const chosen = bad && Object.hasOwn(bad, path) ? bad[path] : undefined;
  if (chosen) return chosen === 'refuse';
  const isKey = strongKeys[object as TargetKey]?.includes(key) && field.type !== 'phone';
  return field.required === true || isKey || (object === target && key === objectType(object).nameField);
}

function valueOf(
  { path, field }: FillableField,
  text: string,
  reading: CellReading,
  { named }: ImportSurroundings,
  meanings: ImportSetup['meanings'],
): FieldValue {
  if (text === '') return null;
  const meant = Object.hasOwn(meanings, path) ? meanings[path][text.toLowerCase()] : undefined;
  if (meant !== undefined) return isSetType(field.type) && meant !== null ? [String(meant)] : meant;
  if (saysNothing(field, text)) return null;
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
  const columns = columnsOf(setup, catalogue, table.headings);
  const target = targetOf(setup.target);
  const people = (around.named.person ?? []).map(({ id, name, email = '' }) => ({ id, name, email }));
  /** The column that fills a path, where faults are pointed out. */
  const byPath = new Map(columns.map((column) => [column.fillable.path, column]));
  const currencies = columns.find(({ fillable }) => fillable.field.type === 'currency');
  const usual = setup.currency ?? around.currency;
  const used = around.currencies ?? [around.currency];
  const read: ReadRows = { rows: [], refused: [] };

  const checks = new Map<string, ManyRecordsCheck>();
  const checkOf = (object: TargetKey, country: string) => {
    const name = `${object} ${country}`;
    const known = checks.get(name);
    if (known) return known;
    const setter = setterOf(object);
    const check = new ManyRecordsCheck({
      object,
      purpose: 'change',
      setter,
      locale: { ...locale, country },
      // Columns are of fields that are seen; whether one of them may be changed is the plan’s to say.
      catalogue: around.everyField ?? catalogue,
    });
    checks.set(name, check);
    return check;
  };

  const readRow = ({ row, cells }: TableRow) => {
    const faults: Refusal[] = [];
    const notes: Refusal[] = [];
    let unlessConverted: Refusal | undefined;
    const partOf = (object: ObjectKey): ReadPart => ({
      object: object as TargetKey,
      values: {},
      blank: [],
      assumed: [],
    });
    const main = partOf(target.key);
    const others = new Map<Part, ReadPart>();
    const { code: named, unclear } = currencyNamed(currencies, cells, used);
    const { dates, decimal } = setup;
    const reading: CellReading = {
      people,
      currency: named ?? usual,
      dates,
      decimal,
      timeZone: around.timeZone,
    };
    /** Says that a cell cannot be read, and whether that keeps the row out. */
    const cannotRead = (fillable: FillableField, column: number | null, reason: string, unknown?: string) => {
      const isOut = keepsOut(fillable, setup);
      (isOut ? faults : notes).push({
        row,
        column,
        ...(isOut ? { reason } : { reason: `${reason}; left empty`, isLeftEmpty: true as const }),
        ...(unknown === undefined ? {} : { unknown }),
      });
    };
    for (const { indexes, fillable } of columns) {
      const { part, key, field } = fillable;
      const [first] = indexes;
      let into = main;
      if (part) {
        into = others.get(part) ?? partOf(part.object);
        others.set(part, into);
      }
      let text = cells[first] ?? '';
      if (indexes.length > 1) {
        const joined = indexes.map((index) => cells[index] ?? '');
        text = joinCells(field, joined);
        if (isPersonName(fillable) && into.object === 'contact')
          sayNameParts(
            into,
            indexes.map((index) => nameRole(table.headings[index] ?? '')),
            joined,
          );
      } else if (setup.names === 'lastFirst' && isPersonName(fillable)) {
        if (into.object === 'contact' && flippedName(text) !== text) takeParts(into, splitName(text));
        text = flippedName(text);
      }
      if (isConvertedStatus(fillable, text)) {
        const reason = `${table.headings[first] || field.label}: A lead becomes converted by converting it`;
        unlessConverted = { row, column: first, reason, unknown: text };
        continue;
      }
      const outcome =
        into.object === 'deal' && key === 'stage' && !isSaid(setup, fillable.path, text)
          ? outcomeInStage(text, around.named.stage ?? [])
          : undefined;
      if (outcome) {
        // What a column of outcomes says stands.
        into.values.outcome ??= outcome;
        const reason = `${table.headings[first] || fillable.label}: “${text}” is how the deal ended, and no stage`;
        notes.push({ row, column: first, reason });
        continue;
      }
      const [address, ...more] = addressesIn(field, text);
      if (more.length > 0) {
        text = address;
        notes.push({
          row,
          column: first,
          reason: `${table.headings[first] || fillable.label}: ${more.join(', ')} left out, as there is room for one`,
        });
      }
      try {
        const isAmount = field.type === 'money' && text !== '' && !saysNothing(field, text);
        if (isAmount && unclear !== undefined)
          throw new UnreadableCell(`in which money “${text}” is, “${unclear}” does not say`);
        const said = isAmount ? currencyIn(text, named, used) : undefined;
        if (field.type === 'currency' && named !== undefined) text = named;
        const money = said ? { ...reading, currency: said } : reading;
        const value = valueOf(fillable, text, money, around, setup.meanings);
        if (fillable.isKey) {
          if (value !== null) into.keys = { ...into.keys, [key]: value };
        } else if (value === null) into.blank.push(key);
        else {
          if (field.type === 'money' && field.currency)
            sayCurrency(into, field.currency, money.currency, said !== undefined || named !== undefined);
          into.values[key] = value;
        }
      } catch (error) {
        if (!(error instanceof UnreadableCell)) throw error;
        const { unknown, message } = error;
        cannotRead(fillable, first, `${table.headings[first] || fillable.label}: ${message}`, unknown);
        // What cannot be read changes nothing that is on file.
      }
    }
    const check = (part: ReadPart, prefix: string, country: string) => {
      const checked = checkOf(part.object, country).of(part.values);
      if (checked.value) {
        part.values = checked.value;
        return;
      }
      let isMended = false;
      for (const { field, message } of checked.faults) {
        const [key] = field.split('.');
        const column = byPath.get(prefix + key);
        if (!column || keepsOut(column.fillable, setup)) {
          const index = column?.indexes[0] ?? null;
          if (index === null || !faults.some((fault) => fault.column === index))
            faults.push({ row, column: index, reason: message });
          continue;
        }
        cannotRead(column.fillable, column.indexes[0], message);
        isMended ||= key in part.values;
        delete part.values[key];
      }
      // Without what was left empty the rest is looked at again.
      if (isMended) check(part, prefix, country);
    };
    for (const part of [main, ...others.values()]) if (part.object === 'contact') sayWholeName(part);
    stageOfPipeline(main.values, around.named.stage ?? []);
    const country = countryOf(main.values, '');
    const beside = [...others.values()].map(({ values }) => countryOf(values, '')).find(Boolean) ?? '';
    check(main, '', country || beside || locale.country);
    for (const [part, each] of others)
      check(each, `${part.link}.`, countryOf(each.values, country || locale.country));
    const filled = [...others].filter(([, { values }]) => Object.keys(values).length > 0);
    const whole: ReadRow = {
      row,
      main,
      others: Object.fromEntries(filled.map(([part, each]) => [part.link, each])),
    };
    if (notes.length > 0) whole.notes = notes;
    if (unlessConverted) whole.unlessConverted = unlessConverted;
    // What texts stand for is asked of refused rows as well: they come again.
    const asked = notes.filter(({ unknown }) => unknown !== undefined);
    return { faults: faults.length > 0 ? [...faults, ...asked] : faults, read: whole };
  };

  for (const line of table.rows) {
    const fault = line.fault ?? tooWide(line, table);
    if (fault !== undefined) {
      read.refused.push({ row: line.row, column: null, reason: fault });
      continue;
    }
    const { faults, read: row } = readRow(line);
    if (faults.length > 0) read.refused.push(...faults);
    else read.rows.push(row);
  }
  return read;
}

/** A row with more cells than there are headings: what stands in which column cannot be told. */
function tooWide({ cells, line, row }: TableRow, { headings }: Table): string | undefined {
  if (cells.length <= headings.length) return undefined;
  const where = line === undefined || line === row ? 'The row' : `Line ${line}`;
  return `${where} has ${cells.length} cells, the heading row ${headings.length}. Is a cell with the delimiter in it missing its quotes?`;
}

/** Stages of two pipelines may be called the same: the row’s own pipeline says which is meant. */
function stageOfPipeline(
  values: Values,
  stages: readonly { id: number; name: string; pipeline?: number }[],
): void {
  const { pipeline, stage } = values;
  const named = stages.find(({ id }) => id === stage);
  if (!named || pipeline === undefined || named.pipeline === pipeline) return;
  const meant = stages.find(
    (each) => each.pipeline === pipeline && nameKey(each.name) === nameKey(named.name),
  );
  if (meant) values.stage = meant.id;
}

/** What parts several addresses or numbers from each other. */
const PARTED = /[\s,;|/]/;

/** Several email addresses or phone numbers of one cell, each by itself; nothing where they are one or none. */
function addressesIn({ type }: Field, text: string): string[] {
  if ((type !== 'email' && type !== 'phone') || !PARTED.test(text)) return [];
  const parts = text
    .split(type === 'email' ? /[\s,;/|]+/ : /\s*(?:[,;|\n]|\s\/|\/\s|\bor\b|\boder\b)\s*/)
    .filter((part) => part !== '');
  const isWhole = parts.every((part) =>
    type === 'email' ? normaliseMail(part) !== undefined : /^\+?[\d\s()./-]{6,}$/.test(part),
  );
  return parts.length > 1 && isWhole ? parts : [];
}

/** Whether it was said what a text of a column stands for. */
const isSaid = ({ meanings }: ImportSetup, path: string, text: string) =>
  meanings[path]?.[text.toLowerCase()] !== undefined;

const isConvertedStatus = ({ object, key, field }: FillableField, text: string) =>
  object === 'lead' &&
  key === 'status' &&
  text.toLowerCase() ===
    (field.choices?.find((each) => each.key === 'converted')?.label ?? 'converted').toLowerCase();

/** Takes down the first and the last name of a contact whose name stands in several columns. */
function sayNameParts(
  part: ReadPart,
  roles: readonly (number | undefined)[],
  cells: readonly string[],
): void {
  const at = (role: number) => cells.filter((cell, index) => roles[index] === role && cell !== '').join(' ');
  const [given, middle, family] = [GIVEN, MIDDLE, FAMILY].map(at);
  if (given === '' && family === '') return;
  // “van der” belongs to the last name, whichever column it stands in.
  const isOfFamily = middle.split(' ').every(isNameParticle);
  const firstName = isOfFamily ? given : `${given} ${middle}`;
  const lastName = isOfFamily ? `${middle} ${family}` : family;
  takeParts(part, { firstName: firstName.trim() || null, lastName: lastName.trim() || null });
}

function takeParts({ values }: ReadPart, { firstName, lastName }: PersonName): void {
  if (firstName !== null) values.firstName = firstName;
  if (lastName !== null) values.lastName = lastName;
}

/** A contact whose first and last name a row says is recognised by both together. */
function sayWholeName(part: ReadPart): void {
  const { values } = part;
  if (typeof values.name === 'string') return;
  const [firstName, lastName] = [values.firstName, values.lastName].map((part) =>
    typeof part === 'string' ? part : null,
  );
  const whole = joinName({ firstName, lastName });
  if (whole !== null) part.keys = { ...part.keys, name: whole };
}

const isPersonName = ({ object, key }: FillableField) =>
  key === 'name' && (object === 'lead' || object === 'contact');

/**
 * Takes down which money a record’s amounts are in.
 * @throws UnreadableCell when another amount of the row is in another.
 */
function sayCurrency(into: ReadPart, key: string, currency: string, isSaid: boolean): void {
  const known = into.values[key];
  const isAssumed = into.assumed.includes(key);
  if (known === undefined || (isAssumed && isSaid)) {
    if (isAssumed && known !== currency)
      throw new UnreadableCell(`one amount of the row is in ${currency}, another says no currency`);
    into.values[key] = currency;
    into.assumed = isSaid ? into.assumed.filter((each) => each !== key) : [...into.assumed, key];
  } else if (known !== currency && isSaid) {
    throw new UnreadableCell(`the amounts of one row are in ${String(known)} and in ${currency}`);
  }
}

/** Who sets the fields of an imported record: what an activity or a deal came to is set by a file, though not by hand. */
export const setterOf = (object: TargetKey) =>
  object === 'activity' || object === 'deal' ? 'feature' : 'hand';
