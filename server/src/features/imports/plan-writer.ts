import { setImmediate } from 'node:timers/promises';
import {
  setterOf,
  type ImportPlan,
  type ImportSetup,
  type PlannedLink,
  type PlannedWrite,
  type Refusal,
} from '@zawn/core/imports';
import { CheckedValues } from '@zawn/core/validation';
import { type Giving } from '../assignment/assignment';
import { Problem } from '../../platform/http/problem';
import { type Values } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';

/** Rows written before others get to see how far it is, and may stop it. */
const STEP = 500;
/** Rows that are taken back together when one of them is refused. */
const SLICE = 10_000;
/** Who listens to a run: told how far it is, asked whether to go on, and giving it its turn to write. */
export interface RunObserver {
  progress(done: number, total: number): void;
  isCancelled(): boolean;
  /** Resolves when nobody else is writing. */
  writeLock(): Promise<void>;
}

export class Cancelled extends Error {}

const WRITTEN: Values = Object.freeze({});

/** What became of a plan: the rows that the door refused, and the records of which cells were left empty. */
export interface Written {
  refused: Refusal[];
  noted: { record: number; notes: string[] }[];
}

/** Carries a plan out within a unit. */
export class PlanWriter {
  private readonly refused: Refusal[] = [];

  constructor(
    private readonly unit: Unit,
    private readonly setup: ImportSetup,
    private readonly observer: RunObserver,
    private readonly giving: Giving | undefined,
  ) {}

  /**
   * Uses the plan up: what is written need not lie beside the pages that hold it.
   * @returns the rows that the door refused for a reason the plan could not see, and the records with a note.
   */
  async write(plan: ImportPlan): Promise<Written> {
    const writes = [...plan.others, ...plan.create, ...plan.maybe, ...plan.update];
    const ids: number[] = [];
    for (let from = 0; from < writes.length; from += SLICE) {
      const to = Math.min(from + SLICE, writes.length);
      await this.slice(writes, from, to, ids);
      for (const write of writes.slice(from, to)) {
        write.values = WRITTEN;
        write.known = undefined;
      }
    }
    const main = ids.slice(plan.others.length).filter((id) => id > 0);
    await this.list([...main, ...plan.same.flatMap(({ id }) => id ?? [])]);
    return { refused: this.refused, noted: this.noted(plan, writes, ids) };
  }

  /** The records of rows with cells that were left empty, with the reasons. */
  private noted(plan: ImportPlan, writes: readonly PlannedWrite[], ids: readonly number[]): Written['noted'] {
    const records = new Map(plan.same.map(({ row, id }) => [row, id]));
    for (let at = plan.others.length; at < writes.length; at += 1) records.set(writes[at].row, ids[at]);
    const noted = new Map<number, string[]>();
    for (const { row, reason } of plan.notes) {
      const record = records.get(row);
      if (record) noted.set(record, [...(noted.get(record) ?? []), reason]);
    }
    return [...noted].map(([record, notes]) => ({ record, notes }));
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
    if (this.observer.isCancelled()) throw new Cancelled();
    this.observer.progress(done, total);
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
    const values = new CheckedValues(complete, true);
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
