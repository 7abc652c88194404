import { Injectable, Logger, type OnApplicationBootstrap, type OnModuleDestroy } from '@nestjs/common';
import { type Readable } from 'node:stream';
import { In } from 'typeorm';
import {
  type Actor,
  type ImportCounts,
  type ImportExamples,
  type ImportBucket,
  type ImportLook,
  type ImportPreview,
  type ImportRequest,
  type ImportSummary,
} from '@zawn/core';
import { templateHeadings, targetOf, writesOf, type ImportSetup, type TargetKey } from '@zawn/core/imports';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { storageTrouble, troubleProblems } from '../../platform/database/storage-trouble';
import { earlierAnswer, once, type Asked } from '../../platform/database/once';
import { type ImportRow, type UnitRow } from '../../platform/database/rows';
import { Events } from '../../platform/events/events';
import { notFound, Problem } from '../../platform/http/problem';
import { keepNotices, Notices } from '../../kernel/notices/notices';
import { Organisation } from '../../kernel/organisation/organisation';
import { ImportThreads, type Followed } from './import-threads';
import { ImportFiles } from './import-files';
import { touchedByImports } from './import-work';
import { Cancelled } from './plan-writer';

const SHOWN = 100;
const NO_COUNTS: ImportCounts = {
  create: 0,
  maybe: 0,
  update: 0,
  same: 0,
  skip: 0,
  refuse: 0,
  others: {},
  alike: 0,
  noted: 0,
};

const notImported = (fileName: string, why: string | null) =>
  `${fileName} was not imported. ${why ?? ''}`.trim();

/** What someone is told when an import of theirs has ended. */
const ended = (person: number, id: number, text: string) => ({
  person,
  kind: 'importFinished' as const,
  text,
  path: `/imports?run=${id}`,
});

/** Brings records in from files: the same plan is shown first and carried out afterwards, as a whole or not at all. */
@Injectable()
export class Imports implements OnApplicationBootstrap, OnModuleDestroy {
  private readonly running = new Map<number, Followed & { settled: Promise<void> }>();
  private readonly logger = new Logger(Imports.name);

  constructor(
    private readonly database: Database,
    private readonly desk: ImportThreads,
    private readonly files: ImportFiles,
    private readonly organisation: Organisation,
    private readonly events: Events,
    private readonly notices: Notices,
    private readonly clock: Clock,
  ) {}

  /** What a stop interrupted has written nothing: its one transaction was never completed. Who began it is told. */
  async onApplicationBootstrap(): Promise<void> {
    const failure = 'Zawn was stopped before this import was written. Nothing of it is there.';
    await this.database.writer.transaction(async (manager) => {
      const cut = await manager.findBy<ImportRow>('import', { state: 'running' });
      await manager.update('import', { state: 'running' }, { state: 'stopped', failure });
      await keepNotices(
        manager,
        cut.map(({ id, person, fileName }) => ended(person, id, notImported(fileName, failure))),
        this.clock.now(),
      );
    });
  }

  async onModuleDestroy(): Promise<void> {
    const open = [...this.running.values()];
    for (const running of open) running.cancel();
    this.database.writer.stop();
    await Promise.all(open.map(({ settled }) => settled));
  }

  /** Keeps a file and says what it looks like. */
  async handIn(
    actor: Actor,
    fileName: string,
    incoming: Readable,
    { target, asked }: { target?: TargetKey; asked?: Asked } = {},
  ): Promise<ImportLook> {
    const { file, bytes, hash } = await this.files.keep(actor, incoming);
    // What was sent is the content.
    const named = asked && { ...asked, contentHash: `${asked.contentHash} ${hash}` };
    const kept = await this.keepOnce(named, file).catch(async (error: unknown) => {
      await this.files.forget(actor, file);
      throw error;
    });
    if (kept !== file) await this.files.forget(actor, file);
    return { ...(await this.look(actor, { file: kept, fileName, target, reading: {} })), bytes };
  }

  /** What a file looks like, read in another way or as something else. */
  async look(actor: Actor, { file, fileName, target, reading }: LookAgain): Promise<ImportLook> {
    const path = this.files.pathOf(actor, file);
    const { contentHash, ...look } = await this.desk.look(actor, path, target, reading);
    const [before] = await this.rows.find({
      where: { person: actor.personId, contentHash, state: 'done' },
      order: { id: 'DESC' },
      take: 1,
    });
    return { ...look, file, fileName, bytes: 0, before: before ? { id: before.id, at: before.at } : null };
  }

  /** What the import would do. Nothing is written. */
  preview(actor: Actor, file: string, setup: ImportSetup): Promise<ImportPreview> {
    return this.desk.preview(actor, this.files.pathOf(actor, file), setup);
  }

  /** Rows of one bucket, with what stands there now and what then. */
  examples(
    actor: Actor,
    file: string,
    setup: ImportSetup,
    bucket: ImportBucket,
    from: number,
  ): Promise<ImportExamples> {
    return this.desk.examples(actor, this.files.pathOf(actor, file), setup, bucket, from);
  }

  /**
   * Begins an import that goes on by itself.
   * @throws Problem when the file or the setup cannot work; then nothing is begun.
   */
  async begin(actor: Actor, { file, fileName, setup }: ImportRequest, asked?: Asked): Promise<ImportSummary> {
    const earlier = await earlierAnswer<number>(this.database.reading.manager, asked);
    if (earlier) return this.get(actor, earlier.answer);
    const path = this.files.pathOf(actor, file);
    const isTaken = { file, state: In(['running', 'done']) };
    const taken = () =>
      new Problem('conflict', 'This file is being imported already, or was. Choose it again.');
    if (await this.rows.existsBy(isTaken)) throw taken();
    const { counts } = await this.desk.preview(actor, path, setup);
    if (writesOf(counts) === 0) {
      throw new Problem('conflict', 'No row of this file creates or changes anything. Nothing was written.');
    }
    const { contentHash } = await this.desk.look(actor, path, setup.target, setup.reading);
    const row: Omit<ImportRow, 'id'> = {
      at: this.clock.now(),
      person: actor.personId,
      target: setup.target,
      fileName,
      file,
      contentHash,
      state: 'running',
      unit: null,
      setup: JSON.stringify(setup),
      counts: JSON.stringify(NO_COUNTS),
      failure: null,
      refusedFile: '',
    };
    let isBegun = false;
    const id = await this.database.writer.transaction((manager) =>
      once(manager, asked, row.at, async () => {
        // Somebody may have begun with it while this was being looked at.
        if (await manager.existsBy<ImportRow>('import', isTaken)) throw taken();
        isBegun = true;
        return Number((await manager.insert('import', row)).identifiers[0].id);
      }),
    );
    if (!isBegun) return this.get(actor, id);
    const followed = this.desk.run(actor, { import: id, path, fileName, setup });
    const settled = followed.ended
      .then(
        () => {
          this.organisation.forget();
          this.events.tell(new Set([...touchedByImports, 'notice' as const]));
        },
        (error: unknown) => this.database.writer.eventually(() => this.failed(id, error)),
      )
      .then(() => this.database.writer.eventually(() => this.tell(actor, id, fileName)))
      .finally(() => this.running.delete(id));
    this.running.set(id, Object.assign(followed, { settled }));
    return this.get(actor, id);
  }

  /** Stops an import: nothing of it will have been written. */
  async cancel(actor: Actor, id: number, asked?: Asked): Promise<ImportSummary> {
    await this.row(actor, id);
    await earlierAnswer(this.database.reading.manager, asked);
    const running = this.running.get(id);
    // First of all: while the import writes, no other transaction gets its turn.
    running?.cancel();
    await running?.settled;
    await this.keepOnce(asked, id);
    return this.get(actor, id);
  }

  /** Resolves when an import has ended, however it did. */
  async settled(id: number): Promise<void> {
    await this.running.get(id)?.settled;
  }

  /** The person’s own imports, newest first. */
  async history(actor: Actor): Promise<ImportSummary[]> {
    const rows = await this.rows.find({
      where: { person: actor.personId },
      order: { id: 'DESC' },
      take: SHOWN,
    });
    return this.summaries(rows);
  }

  async get(actor: Actor, id: number): Promise<ImportSummary> {
    const [summary] = await this.summaries([await this.row(actor, id)]);
    return summary;
  }

  /** The refused rows of one of the person’s own imports, as CSV. */
  async refusedRows(actor: Actor, id: number): Promise<{ fileName: string; csv: string }> {
    const { fileName, refusedFile } = await this.row(actor, id);
    return { fileName: `refused ${fileName.replace(/\.\w+$/, '')}.csv`, csv: refusedFile };
  }

  /** The file of an import as it was handed in. */
  async original(actor: Actor, id: number): Promise<{ fileName: string; path: string }> {
    const { file, fileName } = await this.row(actor, id);
    if (!file) throw notFound('The file of this import');
    return { fileName, path: this.files.pathOf(actor, file) };
  }

  /** Headings that are understood without any guess. */
  async template(target: TargetKey): Promise<string[]> {
    return templateHeadings(await this.organisation.catalogue(), targetOf(target));
  }

  private get rows() {
    return this.database.reading.getRepository<ImportRow>('import');
  }

  /** What a request came to, when it came before; otherwise what it came to now. */
  private keepOnce<T>(asked: Asked | undefined, answer: T): Promise<T> {
    return this.database.writer.transaction((manager) =>
      once(manager, asked, this.clock.now(), () => Promise.resolve(answer)),
    );
  }

  private async row(actor: Actor, id: number): Promise<ImportRow> {
    const row = await this.rows.findOneBy({ id, person: actor.personId });
    if (!row) throw notFound('This import');
    return row;
  }

  private async failed(id: number, error: unknown): Promise<void> {
    const isCancelled = error instanceof Cancelled;
    const trouble = storageTrouble(error);
    const said = trouble ? troubleProblems[trouble]() : error;
    const reason = said instanceof Problem ? said.detail : 'Something went wrong on our side.';
    if (!isCancelled && !(said instanceof Problem)) this.logger.error(error);
    const failure = isCancelled
      ? 'You stopped it. Nothing of it was written.'
      : `${reason} Nothing of it was written.`;
    const state = isCancelled ? 'cancelled' : 'failed';
    await this.database.writer.transaction((manager) => manager.update('import', { id }, { state, failure }));
  }

  /** Whoever began it hears how it ended, wherever they are by then. */
  private async tell({ personId: person }: Actor, id: number, fileName: string): Promise<void> {
    const [last] = await this.summaries(await this.rows.findBy({ id }));
    const { create, update, refuse } = last.counts;
    const done = Object.entries({ created: create, updated: update, refused: refuse })
      .filter(([, count]) => count > 0)
      .map(([action, count]) => `${count.toLocaleString('en')} ${action}`);
    const text =
      last.state === 'done'
        ? `${fileName} was imported: ${done.join(', ') || 'nothing was new in it'}`
        : notImported(fileName, last.failure);
    await this.notices.tell([ended(person, id, text)]);
  }

  private async summaries(rows: readonly ImportRow[]): Promise<ImportSummary[]> {
    const units = await this.database.reading
      .getRepository<UnitRow>('unit')
      .findBy({ id: In(rows.flatMap(({ unit }) => unit ?? [])) });
    const undone = new Set(units.filter(({ undoneBy }) => undoneBy !== null).map(({ id }) => id));
    return rows.map(({ id, at, fileName, target, state, unit, counts, failure }) => ({
      id,
      at,
      fileName,
      target,
      state,
      unit,
      failure,
      progress: this.running.get(id)?.progress ?? null,
      isUndone: unit !== null && undone.has(unit),
      // Earlier imports counted less.
      counts: { ...NO_COUNTS, ...(JSON.parse(counts) as Partial<ImportCounts>) },
    }));
  }
}

/** How a file handed in before is to be read. */
export interface LookAgain {
  file: string;
  fileName: string;
  target?: TargetKey;
  reading: ImportSetup['reading'];
}
