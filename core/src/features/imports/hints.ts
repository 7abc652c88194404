import { fieldOf, objectType, type Catalogue } from '../../kernel/catalogue';
import { nameColumns, namePaths } from './guess-columns';
import { joinOrder } from './join-cells';
import { keepsOut, type Refusal } from './read-rows';
import { type ImportSetup } from './setup';
import { type Table } from './table';
import { fillableAt, fillableFields, targetOf } from './targets';

/** One choice that would let refused rows in, and what it is in words: “Join First and Last into Name”. */
export interface Remedy {
  words: string;
  setup: Pick<ImportSetup, 'columns'> | Pick<ImportSetup, 'bad'>;
}

/** Remedies that are weighed; more would not be read. */
const MOST = 4;

/** The single choices that could let rows in which are refused, the likeliest to help first. */
export function remediesFor(
  catalogue: Catalogue,
  table: Pick<Table, 'headings' | 'rows'>,
  setup: ImportSetup,
  refused: readonly Refusal[],
): Remedy[] {
  if (refused.length === 0) return [];
  return [...joinName(catalogue, table, setup), ...leaveEmpty(catalogue, table, setup, refused)].slice(
    0,
    MOST,
  );
}

/** Joining the parts of a name, where they stand in columns that fill nothing or only one of them does. */
function joinName(
  catalogue: Catalogue,
  { headings, rows }: Pick<Table, 'headings' | 'rows'>,
  setup: ImportSetup,
): Remedy[] {
  const parts = nameColumns(headings, rows);
  const [path] = namePaths(fillableFields(catalogue, targetOf(setup.target)));
  if (parts.length < 2 || path === undefined) return [];
  if (parts.every((column) => setup.columns[column] === path)) return [];
  const columns = setup.columns.map((before, column) =>
    parts.includes(column) ? path : before === path ? null : before,
  );
  const words = joinOrder(parts, headings).map((column) => `“${headings[column]}”`);
  const last = words.pop() ?? '';
  const label = fieldOf(
    catalogue,
    objectType(setup.target).nameField === 'name' ? setup.target : 'contact',
    'name',
  );
  return [
    { words: `Join ${words.join(', ')} and ${last} into ${label?.label ?? 'Name'}`, setup: { columns } },
  ];
}

/** Leaving cells empty that cannot be read and keep their rows out, for the column that keeps most of them out. */
function leaveEmpty(
  catalogue: Catalogue,
  { headings }: Pick<Table, 'headings'>,
  setup: ImportSetup,
  refused: readonly Refusal[],
): Remedy[] {
  const faults = new Map<number, number>();
  for (const { column } of refused) if (column !== null) faults.set(column, (faults.get(column) ?? 0) + 1);
  return [...faults]
    .sort(([, a], [, b]) => b - a)
    .flatMap(([column]) => {
      const path = setup.columns[column];
      const fillable = path === null ? undefined : fillableAt(catalogue, targetOf(setup.target), path);
      if (!fillable || path === null || fillable.field.required || !keepsOut(fillable, setup)) return [];
      return [
        {
          words: `Leave “${headings[column] || fillable.label}” empty where it cannot be read`,
          setup: { bad: { ...setup.bad, [path]: 'empty' as const } },
        },
      ];
    });
}
