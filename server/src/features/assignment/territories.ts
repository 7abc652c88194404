import { Injectable } from '@nestjs/common';
import {
  allOf,
  ask,
  howMany,
  objectType,
  runnable,
  type Actor,
  type Condition,
  type Job,
  type RecordOf,
  type TerritoryKind,
  type TerritoryPreview,
  type Written,
} from '@zawn/core';
import { Database } from '../../platform/database/database';
import { earlierAnswer } from '../../platform/database/once';
import { Problem } from '../../platform/http/problem';
import { Jobs, type JobKind, type Slice } from '../../kernel/jobs/jobs';
import { Gate } from '../../kernel/questions/gate';
import { Door, type WriteContext } from '../../kernel/records/door';
import { type Unit } from '../../kernel/records/unit';

type Territory = RecordOf<'territory'>;

/** How long an answer waits for the work to be done before it tells of the job instead. */
const PATIENCE_MS = 2500;
const MOST = 500_000;

interface Move {
  id: number;
  to: number | null;
}

interface Work {
  object: TerritoryKind;
  moves: Move[];
}

/** Puts the accounts or leads that are there into their territories, as one unit that can be undone. */
@Injectable()
export class Territories implements JobKind<Work> {
  readonly kind = 'territories';

  constructor(
    private readonly gate: Gate,
    private readonly door: Door,
    private readonly jobs: Jobs,
    private readonly database: Database,
  ) {
    jobs.register(this);
  }

  /** What putting them in would come to. Nothing is written. */
  async preview(actor: Actor, object: TerritoryKind): Promise<TerritoryPreview> {
    return (await this.plan(actor, object)).preview;
  }

  async run(writing: WriteContext, object: TerritoryKind): Promise<Job> {
    const { actor } = writing;
    const earlier = await earlierAnswer<Written<number>>(this.database.reading.manager, writing.asked);
    if (earlier) return this.jobs.settled(actor, earlier.answer.value, PATIENCE_MS);
    const { moves } = await this.plan(actor, object);
    if (moves.length === 0)
      throw new Problem('conflict', `Every ${objectType(object).label.toLowerCase()} is in its territory.`);
    const { value: job } = await this.door.write({ ...writing, through: 'bulk' }, async (unit) => {
      unit.label = `Put ${howMany(object, moves.length)} into territories`;
      return this.jobs.store<Work>(unit.manager, actor, {
        kind: this.kind,
        label: unit.label,
        unit: unit.id,
        request: { object, moves },
        total: moves.length,
      });
    });
    await this.jobs.begin(actor, job);
    return this.jobs.settled(actor, job, PATIENCE_MS);
  }

  async work(unit: Unit, { object, moves }: Work, from: number, count: number): Promise<Slice> {
    const slice: Slice = { changed: 0, refusals: [] };
    const part = moves.slice(from, from + count);
    const there = await unit.visible(
      object,
      part.map(({ id }) => id),
    );
    for (const { id, to } of part) {
      const record = there.get(id);
      const refusal = record
        ? await unit.attempt(() =>
            unit.change(object, id, { territory: to }, { setter: 'feature', before: record }),
          )
        : 'It is not there any more';
      if (refusal === undefined) slice.changed += 1;
      else slice.refusals.push({ id, name: String(record?.name ?? id), reason: refusal });
    }
    return slice;
  }

  /** What goes where: each record to the first territory whose question it meets. */
  private async plan(
    actor: Actor,
    object: TerritoryKind,
  ): Promise<{ moves: Move[]; preview: TerritoryPreview }> {
    const { rows } = await this.gate.records(
      actor,
      {
        ...ask('territory', { field: 'object', is: 'anyOf', value: [object] }),
        sort: [{ field: 'position' }],
      },
      { offset: 0, limit: MOST },
    );
    const territories = (rows as unknown as Territory[]).filter(({ active }) => active);
    const context = await this.gate.context(actor);
    // Converted leads are read-only: they stay where they were.
    const all = object === 'lead' ? ask('lead', { field: 'convertedAt', is: 'isEmpty' }) : ask(object);
    const ids = async (where?: Condition) =>
      this.gate.ids(actor, ask(object, allOf(all.where, where)), { offset: 0, limit: MOST });
    const meant = new Map<number, number | null>((await ids()).map((id) => [id, null]));
    const asleep: number[] = [];
    for (const { id, condition } of [...territories].reverse()) {
      const where = condition ? (JSON.parse(condition) as Condition) : undefined;
      if (where && runnable(ask(object, where), context).leftOut.length > 0) asleep.push(id);
      else for (const record of await ids(where)) meant.set(record, id);
    }
    const now = new Map<number, number | null>();
    for (const { id } of rows)
      for (const record of await ids({ field: 'territory', is: 'anyOf', value: [id] })) now.set(record, id);
    const moves = [...meant]
      .filter(([id, to]) => (now.get(id) ?? null) !== to)
      .map(([id, to]) => ({ id, to }));
    return { moves, preview: { object, asleep, ...counted(meant, now, moves) } };
  }
}

function counted(
  meant: ReadonlyMap<number, number | null>,
  now: ReadonlyMap<number, number | null>,
  moves: readonly Move[],
): Pick<TerritoryPreview, 'held' | 'moves'> {
  const held = new Map<number | null, number>();
  for (const to of meant.values()) held.set(to, (held.get(to) ?? 0) + 1);
  const ways = new Map<string, { from: number | null; to: number | null; count: number }>();
  for (const { id, to } of moves) {
    const from = now.get(id) ?? null;
    const way = ways.get(`${from} ${to}`) ?? { from, to, count: 0 };
    ways.set(`${from} ${to}`, { ...way, count: way.count + 1 });
  }
  return { held: [...held].map(([territory, count]) => ({ territory, count })), moves: [...ways.values()] };
}
