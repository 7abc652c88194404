import { createHash } from 'node:crypto';
import { readFile as readBytes } from 'node:fs/promises';
import { setImmediate } from 'node:timers/promises';
import { Injectable } from '@nestjs/common';
import { type EntityManager } from 'typeorm';
import {
  ask,
  fieldAt,
  isObjectKey,
  objectType,
  ownersSeenBy,
  subjectKeys,
  type Actor,
  type AnyRecord,
  type FieldValue,
  type ImportCounts,
  type ImportExample,
  type ImportExamples,
  type ImportFate,
  type ImportPreview,
  type Names,
  type ObjectKey,
  type TableHead,
} from '@zawn/core';
import {
  guessConventions,
  guessSetup,
  guessTarget,
  plainHeading,
  planImport,
  readFile,
  readRows,
  refusedFile,
  setterOf,
  setupFrom,
  UnreadableFile,
  wantedKeys,
  type ImportPlan,
  type ImportSetup,
  type ImportSurroundings,
  type PlannedLink,
  type PlannedWrite,
  type ReadRows,
  type Refusal,
  type SetupGuess,
  type Table,
  type TargetKey,
} from '@zawn/core/imports';
import { CheckedValues } from '@zawn/core/validation';
import { Assignment, type Giving } from '../assignment/assignment';
import { Database } from '../database/database';
import { type HeadingRow } from '../database/entities';
import { Problem } from '../http/problem';
import { Organisation } from '../organisation/organisation';
import { Gate } from '../questions/gate';
import { Door } from '../records/door';
import { type Values } from '../records/meaning';
import { type Unit } from '../records/unit';
import { readOnFile } from './on-file';

/** Rows sent to the browser: the rest of the file looks alike. */
const SHOWN_ROWS = 200;
const SHOWN_FAULTS = 500;
const SHOWN_UNKNOWN = 100;
const EXAMPLES = 20;
/** Rows written before others get to see how far it is, and may stop it. */
const STEP = 500;
/** Rows that are taken back together when one of them is refused. */
const SLICE = 10_000;
const ALL = 1000;

/** What a file looks like before anyone has said anything. */
export interface FirstLook {
  target: TargetKey;
  table: TableHead;
  guess: SetupGuess;
  setup: ImportSetup;
  /** What the file holds, as a fingerprint. */
  print: string;
}

/** Who listens to a run: told how far it is, asked whether to go on, and giving it its turn to write. */
export interface Ears {
  progress(done: number, total: number): void;
  isCancelled(): boolean;
  /** Resolves when nobody else is writing. */
  turn(): Promise<void>;
}

/** What a run has to do. */
export interface Run {
  import: number;
  path: string;
  fileName: string;
  setup: ImportSetup;
}

export class Cancelled extends Error {}

/** The work behind imports: reading a file, planning what becomes of its rows, and writing them. */
@Injectable()
export class ImportWork {
  /** The file read last; the page asks about the same one again and again. */
  private last?: { name: string; table: Table; print: string };
  private planned?: { name: string; plan: ImportPlan };

  constructor(
    private readonly database: Database,
    private readonly organisation: Organisation,
    private readonly gate: Gate,
    private readonly door: Door,
    private readonly assignment: Assignment,
  ) {}

  /**
   * The file as a table with all that can be guessed of it.
   * @param target what it is brought in as; guessed too when undefined.
   * @throws Problem `invalid-input` when it cannot be read.
   */
  async look(
    actor: Actor,
    path: string,
    target: TargetKey | undefined,
    reading: ImportSetup['reading'],
  ): Promise<FirstLook> {
    const { table, print } = await this.read(path, reading);
    const catalogue = await this.organisation.catalogue();
    const key = target ?? guessTarget(catalogue, table, 'lead');
    const guess = guessSetup(catalogue, key, table, await this.remembered(key));
    const setup = { ...setupFrom(guess, key, actor.personId), reading };
    return { target: key, table: headOf(table), guess, setup, print };
  }

  /** What the import would do. Nothing is written. */
  async preview(actor: Actor, path: string, setup: ImportSetup): Promise<ImportPreview> {
    const { table } = await this.read(path, setup.reading);
    const plan = await this.plan(actor, path, setup);
    const shown = new Set(table.rows.slice(0, SHOWN_ROWS).map(({ row }) => row));
    const visible = plan.refused.filter(({ row }) => shown.has(row));
    const others = plan.refused.filter(({ row }) => !shown.has(row));
    return {
      table: headOf(table),
      counts: countsOf(plan),
      refused: [...visible, ...others].slice(0, SHOWN_FAULTS),
      unknown: unknownIn(plan.refused),
      conventions: guessConventions(await this.organisation.catalogue(), setup.target, table, setup.columns),
    };
  }

  /** Some of the rows of one fate, with what stands there now and what then. */
  async examples(
    actor: Actor,
    path: string,
    setup: ImportSetup,
    fate: ImportFate,
    from: number,
  ): Promise<ImportExamples> {
    const plan = await this.plan(actor, path, setup);
    const { table } = await this.read(path, setup.reading);
    const all =
      fate === 'create' || fate === 'update'
        ? plan[fate].map((write) => () => exampleOf(write, plan))
        : fate === 'refuse'
          ? byRow(plan.refused).map((faults) => () => refusedExample(faults, setup, table))
          : plan[fate === 'same' ? 'same' : 'skipped'].map((left) => (): ImportExample => ({
              row: left.row,
              object: setup.target,
              id: left.id ?? null,
              name: left.reason,
              why: null,
              fields: [],
            }));
    const examples = all.slice(from, from + EXAMPLES).map((make) => make());
    return { examples, total: all.length, names: await this.namesIn(actor, setup.target, examples) };
  }

  /**
   * Writes every good row in one unit, and what became of the others, or, when it throws, nothing at all.
   * @throws Cancelled when whoever listens no longer wants it.
   */
  async run(actor: Actor, { import: id, path, fileName, setup }: Run, ears: Ears): Promise<ImportCounts> {
    const seen = await this.lastChange();
    const planned = await this.plan(actor, path, setup);
    const head = headOf((await this.read(path, setup.reading)).table);
    // The file is read again for the rows that are refused; until then its cells need not lie beside the plan.
    this.last = undefined;
    await ears.turn();
    const { value } = await this.door.write({ actor, through: 'import' }, async (unit) => {
      // What others wrote since the plan was made may match a row now.
      const isFresh = (await this.lastChange(unit.manager)) === seen;
      const plan = isFresh ? planned : await this.plan(actor, path, setup, unit.manager);
      const giving = setup.owner.by === 'rules' ? await this.assignment.giving(actor, unit) : undefined;
      const refused = await new Writing(unit, setup, ears, giving).write(plan);
      await giving?.keep(unit.manager);
      const counts = countsOf(plan, refused);
      const left = [...plan.refused, ...refused];
      const { plural } = objectType(setup.target);
      unit.label = `Imported ${counts.create + counts.update} ${plural.toLowerCase()} from ${fileName}`;
      await unit.manager.update('import', id, {
        state: 'done',
        unit: unit.id,
        counts: JSON.stringify(counts),
        refusedFile: left.length > 0 ? refusedFile((await this.read(path, setup.reading)).table, left) : '',
      });
      await this.remember(unit.manager, setup, head);
      return counts;
    });
    this.planned = undefined;
    return value;
  }

  private async read(
    path: string,
    reading: ImportSetup['reading'],
  ): Promise<{ table: Table; print: string }> {
    const name = `${path} ${JSON.stringify(reading)}`;
    if (this.last?.name !== name) {
      this.last = undefined;
      this.planned = undefined;
      const bytes = await readBytes(path).catch(() => {
        throw new Problem('not-found', 'This file is no longer here. Choose it again.');
      });
      const print = createHash('sha256').update(bytes).digest('hex');
      this.last = { name, print, table: await readFile(bytes, reading).catch(unreadable) };
    }
    return this.last;
  }

  private async plan(
    actor: Actor,
    path: string,
    setup: ImportSetup,
    manager?: EntityManager,
  ): Promise<ImportPlan> {
    const name = JSON.stringify([path, setup, actor.personId, await this.lastChange(manager)]);
    if (this.planned?.name === name && !manager) return this.planned.plan;
    const { table } = await this.read(path, setup.reading);
    if (setup.columns.length !== table.headings.length) {
      throw new Problem(
        'malformed-request',
        'There must be one field, or none, for each column of the file.',
      );
    }
    const around = await this.surroundings(actor, setup);
    const rows: ReadRows = readRows(table, setup, around);
    const onFile = await readOnFile(this.gate, actor, wantedKeys(rows, setup), manager);
    const plan = planImport(rows, setup, onFile, around);
    this.planned = { name, plan };
    return plan;
  }

  private async surroundings(actor: Actor, setup: ImportSetup): Promise<ImportSurroundings> {
    const [{ currency, country }, people, catalogue, pipelines, stages, { today }] = await Promise.all([
      this.organisation.settings(),
      this.organisation.people(),
      this.organisation.catalogue(),
      this.gate.records(
        actor,
        { ...ask('pipeline'), sort: [{ field: 'position' }] },
        { offset: 0, limit: ALL },
      ),
      this.gate.records(actor, { ...ask('stage'), sort: [{ field: 'position' }] }, { offset: 0, limit: ALL }),
      this.gate.context(actor),
    ]);
    if (setup.owner.by === 'rules' && actor.role === 'rep')
      throw new Problem(
        'not-allowed',
        'Only managers and operations can have an import given out by the rules.',
      );
    const mine: Values = setup.target === 'lead' ? {} : { owner: actor.personId };
    // By rules a lead’s owner stays open until it is written: whose turn it is then.
    const owner: Values = setup.owner.by === 'person' ? { owner: setup.owner.id } : mine;
    const pipeline = pipelines.rows[0]?.id ?? null;
    const stage = stages.rows.find((each) => each.pipeline === pipeline)?.id ?? null;
    return {
      catalogue,
      locale: { country },
      currency,
      named: {
        person: people.filter(({ active }) => active),
        pipeline: pipelines.rows.map(named),
        stage: stages.rows.map((each) => ({ ...named(each), pipeline: Number(each.pipeline) })),
      },
      owners: ownersSeenBy(actor),
      defaults: {
        lead: { ...owner, status: 'untouched' },
        contact: owner,
        account: owner,
        deal: { ...owner, pipeline, stage },
        activity: { ...owner, kind: 'task' },
      },
      today,
    };
  }

  private async lastChange(manager: EntityManager = this.database.reading.manager): Promise<number> {
    const row = await manager
      .createQueryBuilder()
      .select('MAX(c.id)', 'last')
      .from('change', 'c')
      .getRawOne<{ last: number | null }>();
    return row?.last ?? 0;
  }

  /** What headings were pointed at last time. */
  private async remembered(target: TargetKey): Promise<Record<string, string | null>> {
    const rows = await this.database.reading.getRepository<HeadingRow>('heading').findBy({ target });
    return Object.fromEntries(rows.map(({ heading, path }) => [heading, path]));
  }

  private async remember(
    manager: EntityManager,
    { target, columns }: ImportSetup,
    table: TableHead,
  ): Promise<void> {
    if (table.format === 'delimited' && table.headingRow.value === 0) return;
    const rows = new Map(
      table.headings.map((heading, index) => [plainHeading(heading), columns[index] ?? null] as const),
    );
    rows.delete('');
    for (const [heading, path] of rows)
      await manager.upsert('heading', { target, heading, path }, ['target', 'heading']);
  }

  private async namesIn(actor: Actor, target: TargetKey, examples: readonly ImportExample[]): Promise<Names> {
    const catalogue = await this.organisation.catalogue();
    const names: Names = {};
    for (const { fields } of examples) {
      for (const { path, before, after } of fields) {
        const to = fieldAt(catalogue, target, path)?.to;
        if (!isObjectKey(to)) continue;
        const ids = [before, after].filter((id) => typeof id === 'number');
        for (const [id, record] of await this.gate.visible(actor, to, ids))
          (names[to] ??= {})[id] = String(record[objectType(to).nameField]);
      }
    }
    return names;
  }
}

/** Carries a plan out within a unit. */
class Writing {
  private readonly refused: Refusal[] = [];

  constructor(
    private readonly unit: Unit,
    private readonly setup: ImportSetup,
    private readonly ears: Ears,
    private readonly giving: Giving | undefined,
  ) {}

  /** Returns the rows that the door refused for a reason the plan could not see. */
  async write(plan: ImportPlan): Promise<Refusal[]> {
    const writes = [...plan.others, ...plan.create, ...plan.update];
    const ids: number[] = [];
    for (let from = 0; from < writes.length; from += SLICE)
      await this.slice(writes, from, Math.min(from + SLICE, writes.length), ids);
    const main = ids.slice(plan.others.length).filter((id) => id > 0);
    await this.list([...main, ...plan.same.flatMap(({ id }) => id ?? [])]);
    return this.refused;
  }

  /**
   * Writes rows as one. When something in them is refused, all of them are taken back and each half is tried alone,
   * down to the row that stays out: a place to come back to for every row would take longer than the rows do.
   */
  private async slice(
    writes: readonly PlannedWrite[],
    from: number,
    to: number,
    ids: number[],
  ): Promise<void> {
    const reason = await this.unit.attempt(async () => {
      for (let at = from; at < to; at += 1) {
        if (at % STEP === 0) await this.pause(at, writes.length);
        ids[at] = await this.one(writes[at], ids);
      }
    });
    if (reason === undefined) return;
    if (to - from === 1) {
      ids[from] = 0;
      this.refused.push({ row: writes[from].row, column: null, reason });
      return;
    }
    const middle = Math.floor((from + to) / 2);
    await this.slice(writes, from, middle, ids);
    await this.slice(writes, middle, to, ids);
  }

  private async pause(done: number, total: number): Promise<void> {
    // The driver never waits by itself, so others get their turn only here.
    await setImmediate();
    if (this.ears.isCancelled()) throw new Cancelled();
    this.ears.progress(done, total);
  }

  private async one(
    { object, does, known, values: planned, links }: PlannedWrite,
    ids: readonly number[],
  ): Promise<number> {
    const setter = setterOf(object);
    const complete: Values = { ...planned };
    for (const [link, to] of Object.entries(links)) complete[link] = idOf(to, ids);
    if (does === 'create' && this.giving) complete.owner ??= this.giving.next(complete).owner;
    // The plan put these together from values that were checked when the rows were read.
    const values = new CheckedValues(complete);
    if (does === 'create' || !known) return (await this.unit.create(object, values, setter)).id;
    return (await this.unit.change(object, known.id, values, { setter, before: known })).id;
  }

  private async list(ids: readonly number[]): Promise<void> {
    const { list, target } = this.setup;
    if (!list || ids.length === 0) return;
    const id =
      'id' in list
        ? list.id
        : (await this.unit.create('list', { name: list.name, object: target, sharing: 'private' })).id;
    await this.unit.putOnList(id, ids, 'added');
  }
}

/** The record a link leads to; those beside the main ones were written first, in the order of the plan. */
function idOf(to: PlannedLink, ids: readonly number[]): number {
  const id = 'id' in to ? to.id : ids[to.made];
  if (!id) throw new Problem('conflict', 'The account or contact of this row was refused.');
  return id;
}

const named = ({ id, name }: AnyRecord) => ({ id, name: String(name) });

function unreadable(error: unknown): never {
  if (!(error instanceof UnreadableFile)) throw error;
  throw new Problem('invalid-input', `${error.message} Nothing was written.`, {
    faults: [{ field: 'file', message: error.message }],
  });
}

const headOf = ({ rows, ...table }: Table): TableHead => ({
  ...table,
  rows: rows.slice(0, SHOWN_ROWS),
  rowCount: rows.length,
});

function countsOf(plan: ImportPlan, refused: readonly Refusal[] = []): ImportCounts {
  const late = new Set(refused.map(({ row }) => row));
  const others: ImportCounts['others'] = {};
  for (const { object, does } of plan.others) (others[object] ??= { create: 0, update: 0 })[does] += 1;
  const standing = (writes: readonly { row: number }[]) =>
    late.size === 0 ? writes.length : writes.filter(({ row }) => !late.has(row)).length;
  return {
    create: standing(plan.create),
    update: standing(plan.update),
    same: plan.same.length,
    skip: plan.skipped.length,
    refuse: new Set([...plan.refused, ...refused].map(({ row }) => row)).size,
    others,
  };
}

/** Texts that stand for nothing yet, those of most rows first. */
function unknownIn(refused: readonly Refusal[]): ImportPreview['unknown'] {
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
  { row, object, known, values, links, why }: PlannedWrite,
  plan: ImportPlan,
): ImportExample {
  const { nameField } = objectType(object);
  const fields = Object.entries(values).map(([path, after]) => ({
    path,
    before: known?.[path] ?? EMPTY,
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
    id: known?.id ?? null,
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

/** Objects that an import may have touched, for those who watch. */
export const touchedByImports: readonly ObjectKey[] = [...subjectKeys, 'activity', 'list'];
