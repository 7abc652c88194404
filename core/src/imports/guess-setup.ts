import { type Catalogue } from '../catalogue';
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
}

/** Cells of a column looked at for the order of dates and the sign of decimals. */
const LOOKED_AT = 2000;

/** Guesses how a file is written, for columns that are matched already. */
export function guessConventions(
  catalogue: Catalogue,
  key: TargetKey,
  table: Table,
  columns: readonly (string | null)[],
): Pick<SetupGuess, 'dates' | 'decimal'> {
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
  return { ...(dates ? { dates } : {}), ...(decimal ? { decimal } : {}) };
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
  };
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
