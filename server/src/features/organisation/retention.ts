import { existsSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { Inject, Injectable } from '@nestjs/common';
import { In, IsNull, LessThan, Not, type EntityManager } from 'typeorm';
import { customisable, type LetGo } from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { type Config } from '../../platform/config/config';
import { CONFIG } from '../../platform/config/tokens';
import { Database } from '../../platform/database/database';
import { identify } from '../../platform/database/snapshot';
import { writeDerivedToMany } from '../../kernel/records/derivation';
import { Nightly, type HasNightlyJobs, type NightlyJob } from '../../kernel/jobs/nightly-jobs';
import { Organisation } from '../../kernel/organisation/organisation';
import { namesIn } from '../safe-keeping/archive';

const DAY_MS = 86_400_000;
/** Links to set a password that no longer work are told from none for so many days. */
const KEPT_LINKS = 30;
/** Rows let go of in one transaction: few, so that nobody waits long. */
const AT_ONCE = 2000;
/** Lines of what the nights let go of that are told. */
const TOLD = 60;

/** The kinds of records that the bin holds. */
const binned = [
  ...customisable.map(({ key, label }) => ({ key, label: label.toLowerCase() })),
  { key: 'note', label: 'notes' },
  { key: 'mail', label: 'emails' },
  { key: 'file', label: 'files' },
  { key: 'snapshot', label: 'snapshots' },
];

/** Lets go each night of what was kept as long as the organisation wants, and writes down how much that was. */
@Nightly()
@Injectable()
export class Retention implements HasNightlyJobs {
  constructor(
    private readonly database: Database,
    private readonly organisation: Organisation,
    private readonly clock: Clock,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  nightlyJobs(): NightlyJob[] {
    return [{ name: 'retention', work: () => this.letGo() }];
  }

  /** What the last nights let go of, the latest first. */
  async told(): Promise<LetGo[]> {
    const rows = await this.database.reading.manager.find<LetGo & { id: number }>('letGo', {
      order: { id: 'DESC' },
      take: TOLD,
    });
    return rows.map(({ at, what, count }) => ({ at, what, count }));
  }

  private async letGo(): Promise<void> {
    const { keepBin, keepNotices, keepSubmissions, keepSignIns, keepRecordings } =
      await this.organisation.settings();
    await this.oldOf('notice', 'at', keepNotices, 'notices');
    await this.oldOf('submission', 'at', keepSubmissions, 'submissions of forms');
    await this.oldOf('signIn', 'at', keepSignIns, 'sign-ins');
    await this.oldOf('passwordLink', 'expiresAt', KEPT_LINKS);
    await this.recordings(keepRecordings);
    if (keepBin !== null)
      for (const { key, label } of binned) await this.binOf(key, keepBin, `${label} from the bin`);
    if (keepBin !== null || keepRecordings !== null) await this.unnamedFiles();
  }

  /** Lets go of what was recorded of calls so many days ago; the call stays, and says why there is nothing to hear. */
  private async recordings(days: number | null): Promise<void> {
    if (days === null) return;
    await this.inSlices('recordings of calls', async (manager) => {
      const calls = await manager.find<{ id: number; recording: number; doneAt: string }>('activity', {
        where: { doneAt: LessThan(this.before(days)), recording: Not(IsNull()) },
        take: AT_ONCE,
      });
      if (calls.length === 0) return 0;
      const ids = calls.map(({ id }) => id);
      writeDerivedToMany({ manager }, 'activity', ids, 'recording', null);
      writeDerivedToMany({ manager }, 'activity', ids, 'recordingGone', `Deleted after ${days} days`);
      await forget(
        manager,
        'file',
        calls.map(({ recording }) => recording),
      );
      return calls.length;
    });
  }

  private before(days: number): string {
    return new Date(Date.parse(this.clock.now()) - days * DAY_MS).toISOString();
  }

  /** Lets go of the rows of a table that are older than so many days; of none where they are kept for good. */
  private async oldOf(table: string, since: string, days: number | null, what?: string): Promise<void> {
    if (days === null) return;
    const key = table === 'passwordLink' ? 'tokenHash' : 'id';
    await this.inSlices(what, async (manager) => {
      const rows = await manager.find<Record<string, string | number>>(table, {
        where: { [since]: LessThan(this.before(days)) },
        take: AT_ONCE,
      });
      if (rows.length > 0) await manager.delete(table, { [key]: In(rows.map((row) => row[key])) });
      return rows.length;
    });
  }

  /** Lets go of records that were deleted so many days ago: they cannot be brought back, by undoing neither. */
  private async binOf(object: string, days: number, what: string): Promise<void> {
    await this.inSlices(what, async (manager) => {
      const rows = await manager.find<{ id: number; deletedAt: string }>(object, {
        where: { deletedAt: LessThan(this.before(days)) },
        take: AT_ONCE,
      });
      if (rows.length === 0) return 0;
      const ids = rows.map(({ id }) => id);
      await forget(manager, object, ids);
      return ids.length;
    });
  }

  /** Removes the contents of files that no record names any more, but for those that are only just coming in. */
  private async unnamedFiles(): Promise<void> {
    const { dataFolder } = this.config;
    const database = join(dataFolder, 'zawn.sqlite');
    if (!existsSync(database)) return;
    const named = new Set(identify(database).files);
    const yesterday = Date.now() - DAY_MS;
    const old = namesIn(join(dataFolder, 'files'))
      .filter((name) => !named.has(name))
      .map((name) => join(dataFolder, 'files', name.slice(0, 2), name))
      .filter((path) => statSync(path).mtimeMs < yesterday);
    for (const path of old) rmSync(path);
    if (old.length > 0) await this.tell('contents of files that nobody names', old.length);
  }

  private async inSlices(
    what: string | undefined,
    slice: (manager: EntityManager) => Promise<number>,
  ): Promise<void> {
    let count = 0;
    for (let some = AT_ONCE; some === AT_ONCE;) {
      some = await this.database.writer.transaction(slice);
      count += some;
    }
    if (count > 0 && what !== undefined) await this.tell(what, count);
  }

  private async tell(what: string, count: number): Promise<void> {
    await this.database.writer.transaction((manager) =>
      manager.insert('letGo', { at: this.clock.now(), what, count }),
    );
  }
}

/** Deletes records for good, and from the lists that they are on. */
async function forget(manager: EntityManager, object: string, ids: readonly number[]): Promise<void> {
  const lists = await manager.findBy<{ id: number }>('list', { object } as object);
  await manager.delete('listMember', { list: In(lists.map(({ id }) => id)), record: In(ids) });
  await manager.delete(object, { id: In(ids) });
}
