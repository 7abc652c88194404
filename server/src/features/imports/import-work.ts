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
  type Catalogue,
  type ImportCounts,
  type ImportExample,
  type ImportHint,
  type ImportExamples,
  type ImportBucket,
  type ImportPreview,
  type Names,
  type ObjectKey,
  type TableHead,
} from '@zawn/core';
import {
  fillableAt,
  guessColumns,
  guessConventions,
  LOOKED_AT,
  guessSetup,
  guessTarget,
  plainHeading,
  planImport,
  readFile,
  readRows,
  refusedFile,
  remediesFor,
  setupFrom,
  stillMeant,
  takesSeveral,
  targetOf,
  UnreadableFile,
  wantedKeys,
  type ImportPlan,
  type ImportSetup,
  type ImportSurroundings,
  type ReadRows,
  type Refusal,
  type Remembered,
  type SetupGuess,
  type Table,
  type TargetKey,
} from '@zawn/core/imports';
import { Assignment } from '../assignment/assignment';
import { Database } from '../../platform/database/database';
import { type HeadingRow, type ImportRow } from '../../platform/database/rows';
import { invalidInput, Problem } from '../../platform/http/problem';
import { Organisation } from '../../kernel/organisation/organisation';
import { Gate } from '../../kernel/questions/gate';
import { Door } from '../../kernel/records/door';
import { type Unit } from '../../kernel/records/unit';
import { type Values } from '../../kernel/records/record-hooks';
import { collect } from './collect';
import { readOnFile } from './on-file';
import { keepNotes } from './import-notes';
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

/** Rows of a file whose cells are worth a pause to be rid of. */
const WORTH_COLLECTING = 10_000;

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
    const { catalogue } = await this.gate.context(actor);
    const people = await this.organisation.people();
    const key = target ?? guessTarget(catalogue, table, 'lead');
    const guess = guessSetup(catalogue, key, table, await this.remembered(actor, key, table));
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
      refused: faultsToShow(plan.refused, table),
      notes: faultsToShow(plan.notes, table),
      unknown: unknownIn([...plan.refused, ...plan.notes]),
      hints: await this.hints(actor, table, setup, plan.refused),
      conventions: guessConventions(
        (await this.gate.context(actor)).catalogue,
        setup.target,
        table,
        setup.columns,
      ),
    };
  }

  /** The single choices that would let refused rows in, each tried on those rows. */
  private async hints(
    actor: Actor,
    table: Table,
    setup: ImportSetup,
    refused: readonly Refusal[],
  ): Promise<ImportHint[]> {
    const out = new Set(refused.map(({ row }) => row));
    const around = await this.surroundings(actor, setup);
    const part = { ...table, rows: table.rows.filter(({ row }) => out.has(row)) };
    const hints: ImportHint[] = [];
    for (const remedy of remediesFor(around.catalogue, part, setup, refused)) {
      const plan = await this.planOf(actor, part, { ...setup, ...remedy.setup }, around);
      const good = out.size - new Set(plan.refused.map(({ row }) => row)).size;
      if (good > 0) hints.push({ ...remedy, good, refused: out.size });
    }
    return hints.sort((a, b) => b.good - a.good);
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
    const { rows, ...head } = (await this.read(path, setup.reading)).table;
    // What columns are guessed by; the rest of the file need not stay.
    const beginning: Table = { ...head, rows: rows.slice(0, LOOKED_AT) };
    const planned = await this.plan(actor, path, setup);
    this.letGo();
    await observer.writeLock();
    const { value } = await this.door.write({ actor, through: 'import' }, async (unit) => {
      // What others wrote since the plan was made may match a row now.
      const isFresh = (await lastChange(unit.manager)) === seen;
      const plan = isFresh ? planned : await this.plan(actor, path, setup, unit.manager);
      if (!isFresh) this.letGo();
      const giving = setup.owner.by === 'rules' ? await this.assignment.giving(actor, unit) : undefined;
      const { refused, noted } = await new PlanWriter(unit, setup, observer, giving).write(plan);
      await keepNotes(unit.manager, id, setup.target, noted);
      await giving?.keep(unit.manager);
      const counts = countsOf(plan, refused);
      const left = [...plan.refused, ...refused, ...plan.notes];
      unit.label = `Imported ${howMany(setup.target, counts.create + counts.maybe + counts.update)} from ${fileName}`;
      await unit.manager.update('import', id, {
        state: 'done',
        unit: unit.id,
        counts: JSON.stringify(counts),
        refusedFile: left.length > 0 ? refusedFile((await this.read(path, setup.reading)).table, left) : '',
      });
      await this.remember(unit, setup, beginning);
      return counts;
    });
    this.letGo();
    return value;
  }

  /** Forgets the file: while a run writes, its cells and its plan need not lie beside the pages that hold them. */
  private letGo(): void {
    const rows = this.last?.table.rows.length ?? 0;
    this.last = undefined;
    this.planned = undefined;
    if (rows > WORTH_COLLECTING) collect();
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
    mayBeJoined(around.catalogue, setup, table);
    const plan = await this.planOf(actor, table, setup, around, manager);
    this.planned = { name, plan };
    return plan;
  }

  private async planOf(
    actor: Actor,
    table: Table,
    setup: ImportSetup,
    around: ImportSurroundings,
    manager?: EntityManager,
  ): Promise<ImportPlan> {
    const rows: ReadRows = readRows(table, setup, around);
    const onFile = await readOnFile(this.gate, actor, wantedKeys(rows, setup), manager);
    return planImport(rows, setup, onFile, around);
  }

  private async surroundings(actor: Actor, setup: ImportSetup): Promise<ImportSurroundings> {
    const [{ currency, country, timeZone }, people, everyField, pipelines, stages, { today, catalogue }] =
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
    if (!policyOf(actor).allows(setup.target, 'import'))
      throw new Problem(
        'not-allowed',
        `Your role does not let you import ${objectType(setup.target).plural.toLowerCase()}.`,
      );
    if (setup.owner.by === 'rules' && !policyOf(actor).may('giveByRules'))
      throw new Problem('not-allowed', 'Your role does not let you have an import given out by the rules.');
    const mine: Values = setup.target === 'lead' ? {} : { owner: actor.personId };
    // By rules a lead’s owner stays open until it is written: whose turn it is then.
    const owner: Values = setup.owner.by === 'person' ? { owner: setup.owner.id } : mine;
    const rates = await this.organisation.rates();
    const [pipelinesInUse, stagesInUse] = [pipelines, stages].map(({ rows }) =>
      rows.filter(({ retired }) => retired !== true),
    );
    const pipeline = pipelinesInUse[0]?.id ?? null;
    const stage = stagesInUse.find((each) => each.pipeline === pipeline)?.id ?? null;
    return {
      catalogue,
      everyField,
      locked: (object) => policyOf(actor).locked(object),
      locale: { country },
      currency,
      currencies: [...new Set([currency, ...rates.map((rate) => rate.currency)])],
      named: {
        person: people.filter(({ active }) => active),
        pipeline: pipelinesInUse.map(named),
        stage: stagesInUse.map((each) => ({ ...named(each), pipeline: Number(each.pipeline) })),
      },
      owners: ownersToImport(actor, setup.target),
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

  /** What was decided of the columns of files of the same headings: the person’s own word first, then the latest. */
  private async remembered(actor: Actor, target: TargetKey, table: Table): Promise<Remembered> {
    const rows = await this.database.reading
      .getRepository<HeadingRow>('heading')
      .find({ where: { target, shape: shapeOf(table) }, order: { decidedAt: 'ASC' } });
    const own = rows.filter(({ person }) => person === actor.personId);
    return Object.fromEntries([...rows, ...own].map(({ heading, path }) => [heading, path]));
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

  /** Keeps what the person decided otherwise than it was guessed; a guess that nobody looked at binds nobody. */
  private async remember(unit: Unit, { target, columns }: ImportSetup, table: Table): Promise<void> {
    if (table.format === 'delimited' && table.headingRow.value === 0) return;
    const [person, shape, decidedAt] = [unit.actor.personId, shapeOf(table), unit.at];
    const plain = guessColumns(unit.catalogue, targetOf(target), table);
    // What others had decided was shown as well; going back to the plain guess is a decision against theirs.
    const remembered = await this.remembered(unit.actor, target, table);
    const shown = guessColumns(unit.catalogue, targetOf(target), table, remembered);
    const decided = new Map<string, string | null>();
    for (const [column, heading] of table.headings.entries()) {
      const path = columns[column] ?? null;
      const isDecided = path !== plain[column].value || path !== shown[column].value;
      if (isDecided && plainHeading(heading) !== '') decided.set(plainHeading(heading), path);
    }
    await unit.manager.delete('heading', { person, target, shape });
    for (const [heading, path] of decided)
      await unit.manager.insert('heading', { person, target, shape, heading, path, decidedAt });
  }

  private async namesIn(actor: Actor, object: ObjectKey, examples: readonly ImportExample[]): Promise<Names> {
    const { catalogue } = await this.gate.context(actor);
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

/** @throws Problem when several columns are to fill a field that has no place for more than one of them. */
function mayBeJoined(catalogue: Catalogue, { columns, target }: ImportSetup, { headings }: Table): void {
  const seen = new Map<string, number>();
  for (const [column, path] of columns.entries()) {
    if (path === null) continue;
    const earlier = seen.get(path);
    seen.set(path, column);
    const field = fillableAt(catalogue, targetOf(target), path)?.field;
    if (!field)
      throw invalidInput([
        {
          field: `columns.${column}`,
          message: `Column ${column + 1}, “${headings[column]}”, is to fill a field that is not there, or not yours to see`,
        },
      ]);
    if (earlier === undefined || takesSeveral(catalogue, target, path)) continue;
    throw new Problem(
      'malformed-request',
      `“${headings[earlier]}” and “${headings[column]}” both fill ${field.label}, which takes one of them. Leave the other out.`,
    );
  }
}

/** The headings of a file, whatever their order, as a fingerprint. */
const shapeOf = ({ headings }: Pick<Table, 'headings'>) =>
  createHash('sha256')
    .update(JSON.stringify(headings.map(plainHeading).sort()))
    .digest('base64url')
    .slice(0, 22);

const named = ({ id, name }: AnyRecord) => ({ id, name: String(name) });

function unreadable(error: unknown): never {
  if (!(error instanceof UnreadableFile)) throw error;
  throw new Problem('invalid-input', `${error.message} Nothing was written.`, {
    faults: [{ field: 'file', message: error.message }],
  });
}

/** Objects that an import may have touched, for those who watch. */
export const touchedByImports: readonly ObjectKey[] = [...subjectKeys, 'activity', 'list'];

/** The people to whom somebody may give what they import; undefined where that is everyone. */
function ownersToImport(actor: Actor, target: TargetKey): readonly number[] | undefined {
  const policy = policyOf(actor);
  const reach = policy.reach(target, 'import');
  const bound = { none: [], own: [actor.personId], shared: [actor.personId], all: undefined };
  if (reach === 'team') return actor.teamMates;
  return reach === 'below' ? actor.teamPeople : bound[reach];
}
