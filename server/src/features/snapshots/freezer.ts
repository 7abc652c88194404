import { Injectable } from '@nestjs/common';
import { setImmediate } from 'node:timers/promises';
import {
  answerFrozen,
  fieldsFrozen,
  frozenParts,
  knownReport,
  MOST_FROZEN,
  objectType,
  policyOf,
  subjectOf,
  type Actor,
  type AnyRecord,
  type FieldValue,
  type Frozen,
  type FrozenRecord,
  type FrozenRow,
  type FrozenRows,
  type ObjectKey,
  type ReportAnswer,
  type ReportDesign,
  type Snapshot,
} from '@zawn/core';
import { type FrozenPiece } from '../../platform/database/rows';
import { invalidInput, Problem } from '../../platform/http/problem';
import { Gate } from '../../kernel/questions/gate';
import { type Unit } from '../../kernel/records/unit';
import { sharedAsFolder } from './snapshot-hooks';
import { LANGUAGE } from '../reports/report-table';

/** A report frozen, with what it comes to: all that a snapshot keeps, or the present beside one. */
export interface Taken {
  frozen: Frozen;
  rows: FrozenRows;
  /** The records of each part as they read. */
  records: readonly (readonly FrozenRecord[])[];
  answer: ReportAnswer;
}

/** Rows and records of one piece: few enough that reading one keeps nobody waiting. */
const PIECE = 2000;

/** Freezes reports, and keeps what was frozen. */
@Injectable()
export class Freezer {
  constructor(private readonly gate: Gate) {}

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
    const most = MOST_FROZEN.toLocaleString(LANGUAGE);
    return invalidInput([
      {
        field: 'design',
        message: `It is about ${count.toLocaleString(LANGUAGE)} records, and a snapshot holds ${most}. Narrow it to a shorter period, a team or fewer groups`,
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
}

export type PackedRow = [id: number, keys: FieldValue[], figures: (number | null)[], unrated?: number[]];

const packed = ({ id, keys, figures, unrated }: FrozenRow): unknown[] => [
  id,
  keys,
  figures,
  ...(unrated ? [unrated] : []),
];

export const unpacked = ([id, keys, figures, unrated]: PackedRow): FrozenRow => ({
  id,
  keys,
  figures,
  ...(unrated ? { unrated } : {}),
});

/** Different records in some rows, over all parts of a kind. */
export const recordsIn = (rows: FrozenRows): number =>
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
