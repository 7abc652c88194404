import { offered, type Catalogue } from '../../kernel/catalogue';
import { guessDateOrder, guessDecimal, type DateOrder, type DecimalSign } from './conventions';
import { guessColumns, type ColumnGuess, type Remembered } from './guess-columns';
import { matchKeys, type ImportSetup } from './setup';
import { type Guess, type Table } from './table';
import { fillableAt, targetOf, type TargetKey } from './targets';

/** What is taken for true of a file before anyone has said anything, each with how sure and why. */
export interface SetupGuess {
  columns: ColumnGuess[];
  /** Undefined when no column holds a date that could be read two ways. */
  dates?: Guess<DateOrder>;
  decimal?: Guess<DecimalSign>;
  /** Undefined when no column holds whole names of people. */
  names?: Guess<'asWritten' | 'lastFirst'>;
}

/** Cells of a column looked at for the order of dates and the sign of decimals. */
const LOOKED_AT = 2000;

/** Guesses how a file is written, for columns that are matched already. */
export function guessConventions(
  catalogue: Catalogue,
  key: TargetKey,
  table: Table,
  columns: readonly (string | null)[],
): Pick<SetupGuess, 'dates' | 'decimal' | 'names'> {
  const target = targetOf(key);
  const textsOf = (types: readonly string[]) =>
    columns.flatMap((path, index) => {
      const field = path === null ? undefined : fillableAt(catalogue, target, path)?.field;
      if (!field || !types.includes(field.type)) return [];
      return table.rows
        .slice(0, LOOKED_AT)
        .map(({ cells }) => cells[index] ?? '')
        .filter(Boolean);
    });
  const dates = guessDateOrder(textsOf(['date', 'dateTime']));
  const decimal = guessDecimal(textsOf(['money', 'number', 'percent']), table.isTyped);
  const names = guessNames(catalogue, key, table, columns);
  return { ...(dates ? { dates } : {}), ...(decimal ? { decimal } : {}), ...(names ? { names } : {}) };
}

/** Share of the names with one comma from which they are taken to stand last name first. */
const MOST_NAMES = 0.7;

/** How the whole names of a column are written: `Runa Seagrave`, or `Seagrave, Runa`. */
function guessNames(
  catalogue: Catalogue,
  key: TargetKey,
  { rows }: Table,
  columns: readonly (string | null)[],
): SetupGuess['names'] {
  const target = targetOf(key);
  const own = columns.flatMap((path, index) => {
    const fillable = path === null ? undefined : fillableAt(catalogue, target, path);
    const isName = fillable?.key === 'name' && (fillable.object === 'lead' || fillable.object === 'contact');
    return isName && columns.indexOf(path) === columns.lastIndexOf(path) ? [index] : [];
  });
  const texts = own.flatMap((index) =>
    rows
      .slice(0, LOOKED_AT)
      .map(({ cells }) => cells[index] ?? '')
      .filter(Boolean),
  );
  const flipped = texts.filter((text) => /^[^,]+, *[^,]+$/.test(text));
  if (flipped.length === 0) return undefined;
  const share = flipped.length / texts.length;
  const why = `${flipped[0]} is one of ${flipped.length} names with a comma, of ${texts.length}`;
  return share >= MOST_NAMES
    ? { value: 'lastFirst', sure: share > 0.95 ? 0.95 : 0.65, why }
    : { value: 'asWritten', sure: 0.6, why };
}

/** Guesses everything about a file that a person would otherwise have to say. */
export function guessSetup(
  catalogue: Catalogue,
  key: TargetKey,
  table: Table,
  remembered?: Remembered,
): SetupGuess {
  const columns = guessColumns(catalogue, targetOf(key), table, remembered);
  return {
    columns,
    ...guessConventions(
      catalogue,
      key,
      table,
      columns.map(({ value }) => value),
    ),
  };
}

/** What an import begins with: the guesses, and the careful choice where there is nothing to guess. */
export function setupFrom(guess: SetupGuess, target: TargetKey, owner: number): ImportSetup {
  return {
    target,
    reading: {},
    columns: guess.columns.map(({ value }) => value),
    dates: guess.dates?.value ?? 'dmy',
    decimal: guess.decimal?.value ?? '.',
    owner: { by: 'person', id: owner },
    tags: [],
    list: null,
    match: matchKeys[target],
    onMatch: 'update',
    blanks: 'keep',
    several: 'add',
    meanings: {},
    ...(guess.names ? { names: guess.names.value } : {}),
  };
}

/**
 * What texts of a file were said to stand for before, as far as they still can: choices that are offered and people
 * who are here.
 * @param before what was said in earlier imports, the latest first; the latest word on a text counts.
 */
export function stillMeant(
  catalogue: Catalogue,
  key: TargetKey,
  { rows }: Pick<Table, 'rows'>,
  { columns }: Pick<SetupGuess, 'columns'>,
  before: readonly ImportSetup['meanings'][],
  people: readonly { id: number; active: boolean }[],
): ImportSetup['meanings'] {
  const meanings: Record<string, Record<string, string | number | null>> = {};
  for (const [column, { value: path }] of columns.entries()) {
    const said = path === null ? [] : before.flatMap((each) => Object.entries(each[path] ?? {}));
    const field = path === null ? undefined : fillableAt(catalogue, targetOf(key), path)?.field;
    if (path === null || said.length === 0 || !field) continue;
    const there = new Set(rows.map(({ cells }) => (cells[column] ?? '').toLowerCase()));
    const choices = new Set(offered(field.choices).map((choice) => choice.key));
    const stands = (value: string | number | null) =>
      value === null ||
      (typeof value === 'string'
        ? choices.has(value)
        : people.some(({ id, active }) => active && id === value));
    const known: Record<string, string | number | null> = {};
    for (const [text, value] of said)
      if (there.has(text) && !Object.hasOwn(known, text) && stands(value)) known[text] = value;
    if (Object.keys(known).length > 0) meanings[path] = known;
  }
  return meanings;
}

/** Which target a file is likely meant for: the one whose fields its headings name most of. */
export function guessTarget(catalogue: Catalogue, table: Table, usual: TargetKey): TargetKey {
  const scores = (['lead', 'contact', 'account', 'deal', 'activity'] as const).map((key) => {
    const sure = guessColumns(catalogue, targetOf(key), table).filter(
      ({ value, sure: how }) => value && how >= 0.9,
    );
    return { key, count: sure.length };
  });
  const best = scores.reduce(
    (a, b) => (b.count > a.count ? b : a),
    scores.find(({ key }) => key === usual) ?? scores[0],
  );
  return best.key;
}
