import { Injectable } from '@nestjs/common';
import { setImmediate } from 'node:timers/promises';
import {
  answerFrozen,
  behindFrozen,
  contextThen,
  fieldsFrozen,
  frozenParts,
  hiddenIn,
  hiddenOn,
  knownReport,
  MOST_FROZEN,
  objectType,
  policyOf,
  subjectOf,
  type Actor,
  type AnyRecord,
  type FieldValue,
  type Frozen,
  type FrozenAnswer,
  type FrozenRecord,
  type FrozenRow,
  type FrozenRows,
  type Names,
  type ObjectKey,
  type ReportAnswer,
  type ReportDesign,
  type RowPlace,
  type Snapshot,
} from '@zawn/core';
import { Database } from '../../platform/database/database';
import { type FrozenPiece } from '../../platform/database/rows';
import { invalidInput, Problem } from '../../platform/http/problem';
import { Organisation } from '../../kernel/organisation/organisation';
import { Gate } from '../../kernel/questions/gate';
import { type Unit } from '../../kernel/records/unit';
import { sharedAsFolder } from './snapshot-hooks';

/** A report frozen, with what it comes to: all that a snapshot keeps, or the present beside one. */
export interface Taken {
  frozen: Frozen;
  rows: FrozenRows;
  /** The records of each part as they read. */
  records: readonly (readonly FrozenRecord[])[];
  answer: ReportAnswer;
}

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

/** Rows and records of one piece: few enough that reading one keeps nobody waiting. */
const PIECE = 2000;

/** Freezes reports, and reads what was frozen. */
@Injectable()
export class Freezer {
  constructor(
    private readonly database: Database,
    private readonly gate: Gate,
    private readonly organisation: Organisation,
  ) {}

  /**
   * A report as it stands for somebody, with every record behind it.
   * @throws Problem `invalid-input` where it asks for what is gone or not theirs to see, or is about too many records.
   */
  async take(actor: Actor, design: ReportDesign): Promise<Taken> {
    const context = await this.gate.context(actor);
    const { catalogue, ...moment } = context;
    const { leftOut } = knownReport(design, catalogue);
    if (leftOut.length > 0)
      throw invalidInput(
        leftOut.map(({ part }) => ({ field: 'design', message: `“${part}” is gone, or not yours to see` })),
      );
    const parts = frozenParts(design, context);
    const frozen: Frozen = {
      version: 1,
      design,
      moment,
      fields: fieldsFrozen(parts, catalogue),
      parts,
      names: {},
      orders: {},
    };
    const rows: FrozenRow[][] = [];
    const records: FrozenRecord[][] = [];
    let left = MOST_FROZEN;
    for (const { question, columns } of parts) {
      const found = await this.gate.figuresByRecord(actor, question, left);
      if (!found) throw await this.tooMany(actor, frozen);
      left -= found.rows.length;
      rows.push(found.rows);
      into(frozen.names, found.names);
      into(frozen.orders, found.orders);
      const ids = [...new Set(found.rows.map(({ id }) => id))];
      const read: FrozenRecord[] = [];
      const { nameField } = objectType(question.object);
      for (let from = 0; from < ids.length; from += PIECE) {
        const some = ids.slice(from, from + PIECE);
        const { rows: chosen, names } = await this.gate.chosen(
          actor,
          { ...subjectOf(question), columns: [...columns] },
          some,
        );
        into(frozen.names, names);
        for (const record of chosen) read.push(asRead(record, nameField, columns));
        await setImmediate();
      }
      records.push(read);
    }
    return { frozen, rows, records, answer: await answerFrozen(frozen, rows, catalogue) };
  }

  private async tooMany(actor: Actor, { parts }: Frozen): Promise<Problem> {
    const counts = await Promise.all(
      parts.map(({ question: { groups: _groups, measures: _measures, ...records } }) =>
        this.gate.count(actor, records),
      ),
    );
    const count = counts.reduce((sum, each) => sum + each, 0);
    const most = MOST_FROZEN.toLocaleString('en-GB');
    return invalidInput([
      {
        field: 'design',
        message: `It is about ${count.toLocaleString('en-GB')} records, and a snapshot holds ${most}. Narrow it to a shorter period, a team or fewer groups`,
      },
    ]);
  }

  /** @throws Problem `not-allowed` where somebody may not hand out what a snapshot shows to others as a whole. */
  refuseWhole(actor: Actor, { parts }: Frozen): void {
    const policy = policyOf(actor);
    const kept = parts.find(({ question: { object } }) => !policy.allows(object, 'export'));
    if (kept)
      throw new Problem(
        'not-allowed',
        `Your role does not let you hand out ${objectType(kept.question.object).plural.toLowerCase()}. Let each reader see the records that they see.`,
      );
  }

  /** Keeps what was taken as a snapshot, in one unit. */
  async keep(
    unit: Unit,
    { frozen, rows, records, answer }: Taken,
    values: Pick<Snapshot, 'name' | 'folder' | 'seenBy'> &
      Partial<Pick<Snapshot, 'about' | 'plan' | 'dueAt'>>,
  ): Promise<Snapshot> {
    if (values.seenBy === 'whole') this.refuseWhole(unit.actor, frozen);
    const snapshot = (await unit.create(
      'snapshot',
      {
        ...values,
        ...(await sharedAsFolder(unit, values.folder)),
        owner: unit.actor.personId,
        object: frozen.design.question.object,
        takenAt: frozen.moment.now,
        records: recordsIn(rows),
      },
      'feature',
    )) as unknown as Snapshot;
    const pieces: FrozenPiece[] = [];
    const put = (holds: string, all: readonly unknown[]) => {
      for (let place = 0; place * PIECE < all.length; place += 1)
        pieces.push({
          snapshot: snapshot.id,
          holds,
          place,
          data: JSON.stringify(all.slice(place * PIECE, (place + 1) * PIECE)),
        });
    };
    put('report', [{ frozen, answer }]);
    for (const [index, some] of rows.entries()) put(`rows ${index}`, some.map(packed));
    for (const [index, some] of records.entries())
      put(
        `records ${index}`,
        some.map(({ id, name, values: cells }) => [id, name, ...cells]),
      );
    for (const piece of pieces) await unit.manager.insert('frozen', piece);
    return snapshot;
  }

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

type PackedRow = [id: number, keys: FieldValue[], figures: (number | null)[], unrated?: number[]];

const packed = ({ id, keys, figures, unrated }: FrozenRow): unknown[] => [
  id,
  keys,
  figures,
  ...(unrated ? [unrated] : []),
];

const unpacked = ([id, keys, figures, unrated]: PackedRow): FrozenRow => ({
  id,
  keys,
  figures,
  ...(unrated ? { unrated } : {}),
});

/** Different records in some rows, over all parts of a kind. */
const recordsIn = (rows: FrozenRows): number =>
  rows.reduce((sum, some) => sum + new Set(some.map(({ id }) => id)).size, 0);

const asRead = (record: AnyRecord, nameField: string, columns: readonly string[]): FrozenRecord => ({
  id: record.id,
  name: String(record[nameField] ?? ''),
  values: columns.map((path) => record[path] ?? null),
});

/** Adds what is known of records by object to what is known already. */
function into<T>(all: Partial<Record<ObjectKey, Record<number, T>>>, more: typeof all): void {
  for (const [object, of] of Object.entries(more))
    all[object as ObjectKey] = { ...all[object as ObjectKey], ...of };
}

function memo<T>(make: () => Promise<T>): () => Promise<T> {
  let made: Promise<T> | undefined;
  return () => (made ??= make());
}
