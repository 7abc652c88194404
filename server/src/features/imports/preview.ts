import {
  objectType,
  type FieldValue,
  type BesideOutcome,
  type ImportCounts,
  type ImportExample,
  type ImportBucket,
  type ImportPreview,
  type ObjectKey,
  type TableHead,
} from '@zawn/core';
import {
  type ImportPlan,
  type ImportSetup,
  type PlannedWrite,
  type Refusal,
  type Table,
} from '@zawn/core/imports';

/** Rows sent to the browser: the rest of the file looks alike. */
const SHOWN_ROWS = 200;
const SHOWN_FAULTS = 500;
const SHOWN_UNKNOWN = 100;
export const headOf = ({ rows, ...table }: Table): TableHead => ({
  ...table,
  rows: rows.slice(0, SHOWN_ROWS),
  rowCount: rows.length,
});

export function countsOf(plan: ImportPlan, refused: readonly Refusal[] = []): ImportCounts {
  const late = new Set(refused.map(({ row }) => row));
  const others: ImportCounts['others'] = {};
  const count = (object: ObjectKey, outcome: BesideOutcome) => {
    const of = (others[object] ??= {});
    of[outcome] = (of[outcome] ?? 0) + 1;
  };
  for (const write of plan.others) count(write.object, outcomeOf(write));
  for (let left = plan.taken.length; left > 0; left -= 1) count('account', 'same');
  const standing = (writes: readonly { row: number }[]) =>
    late.size === 0 ? writes.length : writes.filter(({ row }) => !late.has(row)).length;
  return {
    create: standing(plan.create),
    maybe: standing(plan.maybe),
    update: standing(plan.update),
    same: plan.same.length,
    skip: plan.skipped.length,
    refuse: new Set([...plan.refused, ...refused].map(({ row }) => row)).size,
    others,
    alike: plan.alike,
    noted: new Set(plan.notes.map(({ row }) => row)).size,
  };
}

/** What comes of a record beside the main ones: of a new one, whether it may be on file or in the file already. */
const outcomeOf = ({ does, why }: PlannedWrite): BesideOutcome =>
  does === 'create' && why !== undefined ? 'maybe' : does;

/** Texts that stand for nothing yet, those of most rows first. */
export function unknownIn(refused: readonly Refusal[]): ImportPreview['unknown'] {
  const found = new Map<string, ImportPreview['unknown'][number]>();
  for (const { column, unknown } of refused) {
    if (unknown === undefined || column === null) continue;
    const name = `${column} ${unknown.toLowerCase()}`;
    const each = found.get(name) ?? { column, text: unknown, rows: 0 };
    each.rows += 1;
    found.set(name, each);
  }
  return [...found.values()].sort((a, b) => b.rows - a.rows).slice(0, SHOWN_UNKNOWN);
}

function byRow(refused: readonly Refusal[]): Refusal[][] {
  const rows = new Map<number, Refusal[]>();
  for (const refusal of refused) rows.set(refusal.row, [...(rows.get(refusal.row) ?? []), refusal]);
  return [...rows.values()].sort(([a], [b]) => a.row - b.row);
}

const EMPTY: FieldValue = null;

function exampleOf(
  { row, object, known, values, links, why, maybe }: PlannedWrite,
  plan: ImportPlan,
): ImportExample {
  const { nameField } = objectType(object);
  const fields = Object.entries(values).map(([path, after]) => ({
    path,
    before: (known ?? maybe)?.[path] ?? EMPTY,
    after,
  }));
  for (const [link, to] of Object.entries(links)) {
    const before = known?.[link] ?? EMPTY;
    if ('id' in to) fields.push({ path: link, before, after: to.id });
    else
      for (const [key, after] of Object.entries(plan.others[to.made].values))
        if (key !== 'owner') fields.push({ path: `${link}.${key}`, before: EMPTY, after });
  }
  return {
    row,
    object,
    id: (known ?? maybe)?.id ?? null,
    name: String(values[nameField] ?? known?.[nameField] ?? ''),
    why: why ?? null,
    fields: fields.filter(({ before, after }) => before !== null || after !== null),
  };
}

function refusedExample(faults: readonly Refusal[], { target }: ImportSetup, table: Table): ImportExample {
  const [{ row }] = faults;
  const cells = table.rows.find((each) => each.row === row)?.cells ?? [];
  return {
    row,
    object: target,
    id: null,
    name: cells.filter(Boolean).slice(0, 3).join(' · '),
    why: faults.map(({ reason }) => reason).join('. '),
    fields: [],
  };
}

/** The rows of a bucket as examples; each is put together only when it is asked for. */
export function examplesIn(
  plan: ImportPlan,
  table: Table,
  setup: ImportSetup,
  { object, outcome }: ImportBucket,
): (() => ImportExample)[] {
  if (object !== setup.target) {
    if (outcome === 'same')
      return plan.taken.map(({ row, name, why, id }) => () => ({
        row,
        object,
        id: id ?? null,
        name,
        why,
        fields: [],
      }));
    const beside = plan.others.filter((write) => write.object === object && outcomeOf(write) === outcome);
    return beside.map((write) => () => exampleOf(write, plan));
  }
  switch (outcome) {
    case 'create':
    case 'maybe':
    case 'update':
      return plan[outcome].map((write) => () => exampleOf(write, plan));
    case 'refuse':
      return byRow(plan.refused).map((faults) => () => refusedExample(faults, setup, table));
    default:
      return plan[outcome === 'same' ? 'same' : 'skipped'].map((left) => () => ({
        row: left.row,
        object,
        id: left.id ?? null,
        name: left.reason,
        why: null,
        fields: [],
      }));
  }
}

/** The faults a person is shown: those of the rows on the screen first. */
export function faultsToShow(refused: readonly Refusal[], { rows }: Pick<Table, 'rows'>): Refusal[] {
  const shown = new Set(rows.slice(0, SHOWN_ROWS).map(({ row }) => row));
  const [visible, others] = [true, false].map((is) => refused.filter(({ row }) => shown.has(row) === is));
  return [...visible, ...others].slice(0, SHOWN_FAULTS);
}
