import { Injectable } from '@nestjs/common';
import { setImmediate } from 'node:timers/promises';
import {
  answerFrozen,
  behindFrozen,
  contextThen,
  hiddenIn,
  hiddenOn,
  objectType,
  policyOf,
  type Actor,
  type FieldValue,
  type Frozen,
  type FrozenAnswer,
  type FrozenRecord,
  type FrozenRow,
  type FrozenRows,
  type Names,
  type ObjectKey,
  type ReportAnswer,
  type RowPlace,
  type Snapshot,
} from '@zawn/core';
import { Problem } from '../../platform/http/problem';
import { Database } from '../../platform/database/database';
import { type FrozenPiece } from '../../platform/database/rows';
import { Organisation } from '../../kernel/organisation/organisation';
import { Gate } from '../../kernel/questions/gate';
import { recordsIn, unpacked, type PackedRow, type Taken } from './freezer';

/** A snapshot as somebody sees it. */
export interface Opened {
  frozen: Frozen;
  /** The figures, where they are somebody's to see. */
  answer: FrozenAnswer;
  /** The rows of the records that they see. */
  rows: () => Promise<FrozenRows>;
  /** Those records of a part by their ids. */
  records: (part: number, ids: ReadonlySet<number>) => Promise<Map<number, FrozenRecord>>;
  /** What links are called, as far as the person sees what they lead to. */
  names: Names;
  /** With whose eyes it is seen: of two with the same, what differs has changed. */
  asSeenBy: number;
  /** The columns of a part that are shown: without the fields that the person does not see. */
  columns: (part: number) => { path: string; at: number }[];
}

/** What there is of a snapshot before it is known who reads it. */
interface Kept extends Pick<Opened, 'frozen' | 'rows' | 'records' | 'asSeenBy'> {
  answer: ReportAnswer;
  isWhole: boolean;
  count: number;
}

/** Reads what was frozen, as far as somebody sees it. */
@Injectable()
export class FrozenReader {
  constructor(
    private readonly database: Database,
    private readonly gate: Gate,
    private readonly organisation: Organisation,
  ) {}

  /** A snapshot as somebody sees it: as a whole where it was taken for everybody, or by them. */
  async open(actor: Actor, snapshot: Snapshot): Promise<Opened> {
    const [{ frozen, answer }] = await this.pieces<{ frozen: Frozen; answer: ReportAnswer }>(
      snapshot.id,
      'report',
    );
    const rows = memo(async () => {
      const all: FrozenRow[][] = [];
      for (const index of frozen.parts.keys())
        all.push((await this.pieces<PackedRow>(snapshot.id, `rows ${index}`)).map(unpacked));
      return all;
    });
    const records = async (part: number, ids: ReadonlySet<number>) => {
      const all = await this.pieces<[number, string, ...FieldValue[]]>(snapshot.id, `records ${part}`);
      return new Map(
        all.filter(([id]) => ids.has(id)).map(([id, name, ...values]) => [id, { id, name, values }]),
      );
    };
    const isWhole = snapshot.seenBy === 'whole' || snapshot.owner === actor.personId;
    const asSeenBy = isWhole ? snapshot.owner : actor.personId;
    return this.seen(actor, {
      frozen,
      answer,
      rows,
      records,
      isWhole,
      asSeenBy,
      count: snapshot.records ?? 0,
    });
  }

  /** What was just taken, as whoever took it sees it. */
  present(actor: Actor, taken: Taken): Promise<Opened> {
    return this.seen(actor, {
      ...taken,
      rows: () => Promise.resolve(taken.rows),
      records: (part, ids) =>
        Promise.resolve(
          new Map(taken.records[part].filter(({ id }) => ids.has(id)).map((record) => [record.id, record])),
        ),
      isWhole: true,
      asSeenBy: actor.personId,
      count: recordsIn(taken.rows),
    });
  }

  private async seen(actor: Actor, kept: Kept): Promise<Opened> {
    const { frozen, rows, records, isWhole, asSeenBy, count } = kept;
    const { design, moment, fields, parts } = frozen;
    const policy = policyOf(actor);
    const catalogue = await this.organisation.catalogue();
    const then = contextThen(frozen, catalogue).catalogue;
    const hiddenOf = (object: ObjectKey) => policy.hidden(object);
    const hidden = isWhole ? [] : hiddenIn(frozen, catalogue, hiddenOf);
    const theirs = memo(async () => (isWhole ? rows() : this.reached(actor, frozen, await rows())));
    const isAll = isWhole || parts.every(({ question }) => policy.scope(question.object) === 'all');
    const seen = isAll || hidden.length > 0 ? undefined : await theirs();
    const names = isWhole ? frozen.names : await this.namesReached(actor, frozen.names);
    const found = seen ? await answerFrozen(frozen, seen, catalogue) : kept.answer;
    return {
      frozen,
      rows: theirs,
      records,
      names,
      asSeenBy,
      columns: (part) =>
        parts[part].columns.flatMap((path, at) =>
          isWhole || hiddenOn(then, parts[part].question.object, [path], hiddenOf).length === 0
            ? [{ path, at }]
            : [],
        ),
      answer: {
        design,
        moment,
        fields,
        ...(hidden.length > 0 ? {} : { answer: { ...found, names } }),
        hidden,
        records: count,
        seen: hidden.length > 0 ? 0 : seen ? recordsIn(seen) : count,
      },
    };
  }

  /** The names of those records that somebody sees today; what everybody knows, such as people, they know too. */
  private async namesReached(actor: Actor, names: Names): Promise<Names> {
    const policy = policyOf(actor);
    const known: Names = {};
    for (const [key, of] of Object.entries(names)) {
      const object = key as ObjectKey;
      const isEveryones = objectType(object).category === 'setup' || policy.scope(object) === 'all';
      const ids = isEveryones
        ? undefined
        : await this.gate.reached(actor, object, Object.keys(of).map(Number));
      known[object] = ids ? Object.fromEntries(Object.entries(of).filter(([id]) => ids.has(Number(id)))) : of;
    }
    return known;
  }

  /** The rows of those records that somebody sees today, or would if they were not in the bin. */
  private async reached(actor: Actor, { parts }: Frozen, rows: FrozenRows): Promise<FrozenRows> {
    const ids = new Map<ObjectKey, Set<number>>();
    for (const [index, { question }] of parts.entries()) {
      const of = ids.get(question.object) ?? new Set();
      for (const { id } of rows[index]) of.add(id);
      ids.set(question.object, of);
    }
    const seen = new Map<ObjectKey, ReadonlySet<number>>();
    for (const [object, some] of ids) seen.set(object, await this.gate.reached(actor, object, [...some]));
    return rows.map((some, index) =>
      some.filter(({ id }) => seen.get(parts[index].question.object)?.has(id)),
    );
  }

  /** The records behind a place of a snapshot, as somebody sees it. */
  async behind(opened: Opened, place: RowPlace): Promise<{ part: number; ids: number[] }> {
    const catalogue = await this.organisation.catalogue();
    return behindFrozen(opened.frozen, await opened.rows(), place, catalogue);
  }

  private async pieces<T>(snapshot: number, holds: string): Promise<T[]> {
    const found = await this.database.reading.manager.find<FrozenPiece>('frozen', {
      where: { snapshot, holds },
      order: { place: 'ASC' },
    });
    const all: T[] = [];
    for (const { data } of found) {
      for (const each of JSON.parse(data) as T[]) all.push(each);
      if (found.length > 1) await setImmediate();
    }
    return all;
  }
}

/** @throws Problem `not-allowed` where the figures follow from fields that somebody does not see. */
export function mustBeSeen({ answer: { answer, hidden } }: Opened): ReportAnswer {
  if (!answer)
    throw new Problem('not-allowed', `It follows from ${hidden.join(', ')}, which is not yours to see.`);
  return answer;
}

function memo<T>(make: () => Promise<T>): () => Promise<T> {
  let made: Promise<T> | undefined;
  return () => (made ??= make());
}
