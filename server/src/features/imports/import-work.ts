import { createHash } from 'node:crypto';
import { readFile as readBytes } from 'node:fs/promises';
import { Injectable } from '@nestjs/common';
import { lastChange } from '../../platform/database/last-change';
import { type EntityManager } from 'typeorm';
import {
  ask,
  fieldAt,
  howMany,
  isObjectKey,
  objectType,
  policyOf,
  subjectKeys,
  type Actor,
  type AnyRecord,
  type ImportCounts,
  type ImportExample,
  type ImportExamples,
  type ImportBucket,
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
  setupFrom,
  stillMeant,
  UnreadableFile,
  wantedKeys,
  type ImportPlan,
  type ImportSetup,
  type ImportSurroundings,
  type ReadRows,
  type SetupGuess,
  type Table,
  type TargetKey,
} from '@zawn/core/imports';
import { Assignment } from '../assignment/assignment';
import { Database } from '../../platform/database/database';
import { type HeadingRow, type ImportRow } from '../../platform/database/rows';
import { Problem } from '../../platform/http/problem';
import { Organisation } from '../../kernel/organisation/organisation';
import { Gate } from '../../kernel/questions/gate';
import { Door } from '../../kernel/records/door';
import { type Values } from '../../kernel/records/record-hooks';
import { collect } from './collect';
import { readOnFile } from './on-file';
import { countsOf, examplesIn, faultsToShow, headOf, unknownIn } from './preview';
import { PlanWriter, type RunObserver } from './plan-writer';

const EXAMPLES = 20;
const ALL = 1000;
/** Earlier imports that are looked into for what texts stood for. */
const REMEMBERED = 20;

/** What a file looks like before anyone has said anything. */
export interface FirstLook {
  target: TargetKey;
  table: TableHead;
  guess: SetupGuess;
  setup: ImportSetup;
  /** What the file holds, as a fingerprint. */
  contentHash: string;
}

/** What a run has to do. */
export interface Run {
  import: number;
  path: string;
  fileName: string;
  setup: ImportSetup;
}

/** The work behind imports: reading a file, planning what becomes of its rows, and writing them. */
@Injectable()
export class ImportWork {
  /** The file read last; the page asks about the same one again and again. */
  private last?: { name: string; table: Table; contentHash: string };
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
    const { table, contentHash } = await this.read(path, reading);
    const catalogue = await this.organisation.catalogue();
    const people = await this.organisation.people();
    const key = target ?? guessTarget(catalogue, table, 'lead');
    const guess = guessSetup(catalogue, key, table, await this.remembered(key));
    const meanings = stillMeant(catalogue, key, table, guess, await this.meant(key), people);
    const setup = { ...setupFrom(guess, key, actor.personId), reading, meanings };
    return { target: key, table: headOf(table), guess, setup, contentHash };
  }

  /** What the import would do. Nothing is written. */
  async preview(actor: Actor, path: string, setup: ImportSetup): Promise<ImportPreview> {
    const { table } = await this.read(path, setup.reading);
    const plan = await this.plan(actor, path, setup);
    return {
      table: headOf(table),
      counts: countsOf(plan),
      refused: faultsToShow(plan, table),
      unknown: unknownIn(plan.refused),
      conventions: guessConventions(await this.organisation.catalogue(), setup.target, table, setup.columns),
    };
  }

  /** Some of the rows of one bucket, with what stands there now and what then. */
  async examples(
    actor: Actor,
    path: string,
    setup: ImportSetup,
    bucket: ImportBucket,
    from: number,
  ): Promise<ImportExamples> {
    const plan = await this.plan(actor, path, setup);
    const { table } = await this.read(path, setup.reading);
    const all = examplesIn(plan, table, setup, bucket);
    const examples = all.slice(from, from + EXAMPLES).map((make) => make());
    return { examples, total: all.length, names: await this.namesIn(actor, bucket.object, examples) };
  }

  /**
   * Writes every good row in one unit, and what became of the others, or, when it throws, nothing at all.
   * @throws Cancelled when whoever listens no longer wants it.
   */
  async run(
    actor: Actor,
    { import: id, path, fileName, setup }: Run,
    observer: RunObserver,
  ): Promise<ImportCounts> {
    const seen = await lastChange(this.database.reading.manager);
    const head = headOf((await this.read(path, setup.reading)).table);
    const planned = await this.plan(actor, path, setup);
    this.letGo();
    await observer.writeLock();
    const { value } = await this.door.write({ actor, through: 'import' }, async (unit) => {
      // What others wrote since the plan was made may match a row now.
      const isFresh = (await lastChange(unit.manager)) === seen;
      const plan = isFresh ? planned : await this.plan(actor, path, setup, unit.manager);
      if (!isFresh) this.letGo();
      const giving = setup.owner.by === 'rules' ? await this.assignment.giving(actor, unit) : undefined;
      const refused = await new PlanWriter(unit, setup, observer, giving).write(plan);
      await giving?.keep(unit.manager);
      const counts = countsOf(plan, refused);
      const left = [...plan.refused, ...refused];
      unit.label = `Imported ${howMany(setup.target, counts.create + counts.update)} from ${fileName}`;
      await unit.manager.update('import', id, {
        state: 'done',
        unit: unit.id,
        counts: JSON.stringify(counts),
        refusedFile: left.length > 0 ? refusedFile((await this.read(path, setup.reading)).table, left) : '',
      });
      await this.remember(unit.manager, setup, head);
      return counts;
    });
    this.letGo();
    return value;
  }

  /** Forgets the file: while a run writes, its cells and its plan need not lie beside the pages that hold them. */
  private letGo(): void {
    this.last = undefined;
    this.planned = undefined;
    collect();
  }

  private async read(
    path: string,
    reading: ImportSetup['reading'],
  ): Promise<{ table: Table; contentHash: string }> {
    const name = `${path} ${JSON.stringify(reading)}`;
    if (this.last?.name !== name) {
      this.last = undefined;
      this.planned = undefined;
      const bytes = await readBytes(path).catch(() => {
        throw new Problem('not-found', 'This file is no longer here. Choose it again.');
      });
      const contentHash = createHash('sha256').update(bytes).digest('hex');
      this.last = { name, contentHash, table: await readFile(bytes, reading).catch(unreadable) };
    }
    return this.last;
  }

  private async plan(
    actor: Actor,
    path: string,
    setup: ImportSetup,
    manager?: EntityManager,
  ): Promise<ImportPlan> {
    const name = JSON.stringify([
      path,
      setup,
      actor.personId,
      await lastChange(manager ?? this.database.reading.manager),
    ]);
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
    const [{ currency, country, timeZone }, people, catalogue, pipelines, stages, { today }] =
      await Promise.all([
        this.organisation.settings(),
        this.organisation.people(),
        this.organisation.catalogue(),
        this.gate.records(
          actor,
          { ...ask('pipeline'), sort: [{ field: 'position' }] },
          { offset: 0, limit: ALL },
        ),
        this.gate.records(
          actor,
          { ...ask('stage'), sort: [{ field: 'position' }] },
          { offset: 0, limit: ALL },
        ),
        this.gate.context(actor),
      ]);
    if (setup.owner.by === 'rules' && !policyOf(actor).may('giveByRules'))
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
      owners: policyOf(actor).owners,
      defaults: {
        lead: { ...owner, status: 'untouched' },
        contact: owner,
        account: owner,
        deal: { ...owner, pipeline, stage },
        activity: { ...owner, kind: 'task' },
      },
      today,
      timeZone,
    };
  }

  /** What headings were pointed at last time. */
  private async remembered(target: TargetKey): Promise<Record<string, string | null>> {
    const rows = await this.database.reading.getRepository<HeadingRow>('heading').findBy({ target });
    return Object.fromEntries(rows.map(({ heading, path }) => [heading, path]));
  }

  /** What texts were said to stand for in the last imports of a kind, the latest word first. */
  private async meant(target: TargetKey): Promise<ImportSetup['meanings'][]> {
    const rows = await this.database.reading.getRepository<ImportRow>('import').find({
      where: { target, state: 'done' },
      order: { id: 'DESC' },
      take: REMEMBERED,
      select: { id: true, setup: true },
    });
    // Imports of the first days kept no setup.
    return rows.map(({ setup }) => (JSON.parse(setup) as Partial<ImportSetup>).meanings ?? {});
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

  private async namesIn(actor: Actor, object: ObjectKey, examples: readonly ImportExample[]): Promise<Names> {
    const catalogue = await this.organisation.catalogue();
    const names: Names = {};
    for (const { fields } of examples) {
      for (const { path, before, after } of fields) {
        const to = fieldAt(catalogue, object, path)?.to;
        if (!isObjectKey(to)) continue;
        const ids = [before, after].filter((id) => typeof id === 'number');
        for (const [id, record] of await this.gate.visible(actor, to, ids))
          (names[to] ??= {})[id] = String(record[objectType(to).nameField]);
      }
    }
    return names;
  }
}

const named = ({ id, name }: AnyRecord) => ({ id, name: String(name) });

function unreadable(error: unknown): never {
  if (!(error instanceof UnreadableFile)) throw error;
  throw new Problem('invalid-input', `${error.message} Nothing was written.`, {
    faults: [{ field: 'file', message: error.message }],
  });
}

/** Objects that an import may have touched, for those who watch. */
export const touchedByImports: readonly ObjectKey[] = [...subjectKeys, 'activity', 'list'];
