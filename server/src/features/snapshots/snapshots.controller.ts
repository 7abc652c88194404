import { Controller, HttpCode, Get, Post, Res } from '@nestjs/common';
import { type Response } from 'express';
import Joi from 'joi';
import {
  areComparable,
  daysOf,
  differingRecords,
  addDays,
  type Actor,
  type CompareAnswer,
  type CompareFileRequest,
  type CompareRequest,
  type ComparedWith,
  type DifferencesAnswer,
  type DifferencesRequest,
  type DifferingRecord,
  type FreezeRequest,
  type FrozenAnswer,
  type FrozenRecordsAnswer,
  type FrozenRecordsRequest,
  type FrozenRow,
  type ReportDesign,
  type RowPlace,
  type Snapshot,
  type SnapshotFileRequest,
  type Usage,
  type Written,
} from '@zawn/core';
import { checkReport } from '@zawn/core/validation';
import { CheckedBody, RecordId, type CheckedAs } from '../../platform/http/checked';
import { Gives } from '../../platform/http/described';
import { invalidInput } from '../../platform/http/problem';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { ForTokens } from '../../platform/sessions/scopes';
import { Gate } from '../../kernel/questions/gate';
import { Usages } from '../../kernel/views/usages';
import { ByHand } from '../../kernel/records/by-hand';
import { Door, type WriteContext } from '../../kernel/records/door';
import { fileTypes, sendFile, validDrawing } from '../reports/report-files';
import { Freezer } from './freezer';
import { FrozenReader, mustBeSeen, type Opened } from './frozen-reader';
import { SnapshotFiles } from './snapshot-files';

const key = Joi.alternatives(Joi.string().allow(''), Joi.number(), Joi.boolean(), Joi.valid(null));
const keys = Joi.array().items(key).max(5000);
const place = Joi.object({
  keys: Joi.array().items(key).max(3).required(),
  split: key,
  figure: Joi.string().max(40),
  first: keys,
  upTo: keys,
}).required();

const freezeRequest = Joi.object<FreezeRequest>({
  design: Joi.object().unknown().required(),
  name: Joi.string().trim().min(1).max(120).required(),
  about: Joi.string().allow('').max(300),
  folder: Joi.number().integer().positive().max(9e15).required(),
  seenBy: Joi.string().valid('each', 'whole').required(),
});
const recordsRequest = Joi.object<FrozenRecordsRequest>({
  place,
  offset: Joi.number().integer().min(0).max(1e6),
});
const other = Joi.alternatives(Joi.number().integer().positive().max(9e15), Joi.valid('now')).required();
const compareRequest = Joi.object<CompareRequest>({ with: other });
const differencesRequest = Joi.object<DifferencesRequest>({ with: other, place });
const format = Joi.string().valid('csv', 'xlsx', 'pdf').required();
const compareFileRequest = Joi.object<CompareFileRequest>({
  with: other,
  format,
  isDifferent: Joi.boolean(),
  split: key,
});
const fileRequest = Joi.object<SnapshotFileRequest>({
  format,
  records: Joi.boolean(),
  drawing: validDrawing,
});

/** Records answered at once. */
const PAGE = 200;
/** Records of each kind that are named where two figures differ. */
const MOST_DIFFERING = 500;

/** Snapshots: what reports said at a moment, with the records behind every figure. */
@Controller('api/v1/snapshots')
export class SnapshotsController {
  constructor(
    private readonly gate: Gate,
    private readonly freezer: Freezer,
    private readonly reader: FrozenReader,
    private readonly door: Door,
    private readonly files: SnapshotFiles,
    private readonly usages: Usages,
  ) {}

  /** Freezes a report as it stands now. */
  @ForTokens('all')
  @Post('freeze')
  async freeze(
    @ByHand() writing: WriteContext,
    @CheckedBody(freezeRequest) asked: CheckedAs<typeof freezeRequest>,
  ): Promise<Written<Snapshot>> {
    const { design: raw, ...values } = asked;
    const { value: design, faults } = checkReport(raw, (await this.gate.context(writing.actor)).catalogue);
    if (!design)
      throw invalidInput(faults.map(({ field, message }) => ({ field: `design.${field}`, message })));
    const taken = await this.freezer.take(writing.actor, design);
    return this.door.write(writing, (unit) => this.freezer.keep(unit, taken, values));
  }

  /** What a snapshot shows. */
  @ForTokens('read', 'all')
  @Get(':id/frozen')
  async frozen(@CurrentActor() actor: Actor, @RecordId() id: number): Promise<FrozenAnswer> {
    return (await this.opened(actor, id)).answer;
  }

  /** Which packs show a snapshot. */
  @ForTokens('read', 'all')
  @Get(':id/usage')
  async usage(@CurrentActor() actor: Actor, @RecordId() id: number): Promise<Usage> {
    const { id: snapshot } = await this.snapshot(actor, id);
    return { people: [], views: [], shownOn: await this.usages.shownOn(actor, { snapshot }) };
  }

  /** The records behind a figure of a snapshot, as they read then. */
  @ForTokens('read', 'all')
  @Post(':id/records')
  @HttpCode(200)
  async records(
    @CurrentActor() actor: Actor,
    @RecordId() id: number,
    @CheckedBody(recordsRequest) { place: at, offset = 0 }: CheckedAs<typeof recordsRequest>,
  ): Promise<FrozenRecordsAnswer> {
    const opened = await this.opened(actor, id);
    mustBeSeen(opened);
    const { part, ids } = await this.reader.behind(opened, placeIn(opened, at));
    const some = ids.slice(offset, offset + PAGE);
    const { object } = opened.frozen.parts[part].question;
    const [records, there] = await Promise.all([
      opened.records(part, new Set(some)),
      this.gate.visibleStored(actor, object, some),
    ]);
    const columns = opened.columns(part);
    return {
      object,
      columns: columns.map(({ path }) => path),
      fields: opened.frozen.fields,
      rows: some.flatMap((each) => {
        const record = records.get(each);
        return record
          ? [
              {
                id: each,
                name: record.name,
                values: columns.map((column) => record.values[column.at] ?? null),
                isThere: there.has(each),
              },
            ]
          : [];
      }),
      total: ids.length,
      names: opened.names,
    };
  }

  /** A snapshot beside another one, or beside how the same days look now. */
  @ForTokens('read', 'all')
  @Post(':id/compare')
  @HttpCode(200)
  async compare(
    @CurrentActor() actor: Actor,
    @RecordId() id: number,
    @CheckedBody(compareRequest) asked: CheckedAs<typeof compareRequest>,
  ): Promise<CompareAnswer> {
    return compared(await this.both(actor, id, asked.with), asked.with);
  }

  /** Which records make a figure differ from that of another moment. */
  @ForTokens('read', 'all')
  @Post(':id/differences')
  @HttpCode(200)
  async differences(
    @CurrentActor() actor: Actor,
    @RecordId() id: number,
    @CheckedBody(differencesRequest) asked: CheckedAs<typeof differencesRequest>,
  ): Promise<DifferencesAnswer> {
    const sides = await this.both(actor, id, asked.with);
    const behind = await Promise.all(sides.map((opened) => this.rowsBehind(opened, asked.place)));
    const [was, is] = behind;
    const found = differingRecords(was.rows, is.rows, is.measure);
    const { object } = sides[1].frozen.parts[is.part].question;
    const named = async (all: readonly number[]): Promise<DifferingRecord[]> => {
      const some = all.slice(0, MOST_DIFFERING);
      const ids = new Set(some);
      const then = await sides[0].records(was.part, ids);
      const now = await sides[1].records(is.part, ids);
      const there = await this.gate.visibleStored(actor, object, some);
      return some.map((each) => ({
        id: each,
        name: (now.get(each) ?? then.get(each))?.name ?? '',
        was: figureOf(was, each),
        is: figureOf(is, each),
        isThere: there.has(each),
      }));
    };
    const [came, went, changed] = [
      await named(found.came),
      await named(found.went),
      await named(found.changed),
    ];
    const more = (all: readonly number[]) => Math.max(0, all.length - MOST_DIFFERING);
    return {
      object,
      came,
      went,
      changed,
      more: { came: more(found.came), went: more(found.went), changed: more(found.changed) },
    };
  }

  /** Two moments side by side as a file. */
  @ForTokens('all')
  @Gives(fileTypes.csv, fileTypes.xlsx, fileTypes.pdf)
  @Post(':id/compare/file')
  @HttpCode(200)
  async compareFile(
    @CurrentActor() actor: Actor,
    @RecordId() id: number,
    @CheckedBody(compareFileRequest) asked: CheckedAs<typeof compareFileRequest>,
    @Res() response: Response,
  ): Promise<void> {
    const snapshot = await this.snapshot(actor, id);
    const sides = await this.both(actor, id, asked.with);
    const made = await this.files.compared(actor, snapshot, sides, compared(sides, asked.with), asked);
    sendFile(response, asked.format, 'comparison', made);
  }

  /** A file of a snapshot: its figures, or the records behind all of them. */
  @ForTokens('all')
  @Gives(fileTypes.csv, fileTypes.xlsx, fileTypes.pdf)
  @Post(':id/file')
  @HttpCode(200)
  async file(
    @CurrentActor() actor: Actor,
    @RecordId() id: number,
    @CheckedBody(fileRequest) asked: CheckedAs<typeof fileRequest>,
    @Res() response: Response,
  ): Promise<void> {
    const snapshot = await this.snapshot(actor, id);
    const made = await this.files.made(actor, snapshot, await this.reader.open(actor, snapshot), asked);
    sendFile(response, asked.records ? 'csv' : asked.format, 'snapshot', made);
  }

  private async snapshot(actor: Actor, id: number): Promise<Snapshot> {
    return (await this.gate.find(actor, 'snapshot', id)) as unknown as Snapshot;
  }

  private async opened(actor: Actor, id: number): Promise<Opened> {
    return this.reader.open(actor, await this.snapshot(actor, id));
  }

  /** Two moments, the earlier one first. */
  private async both(actor: Actor, id: number, other: ComparedWith): Promise<[Opened, Opened]> {
    const one = await this.opened(actor, id);
    const two =
      other === 'now'
        ? this.reader.present(actor, await this.freezer.take(actor, sameDays(one)))
        : this.opened(actor, other);
    const pair = [one, await two].sort((a, b) => (a.frozen.moment.now < b.frozen.moment.now ? -1 : 1));
    if (!areComparable(pair[0].frozen.design, pair[1].frozen.design))
      throw invalidInput([
        {
          field: 'with',
          message: 'They have other groups or figures, so that there is nothing to put side by side',
        },
      ]);
    return [pair[0], pair[1]];
  }

  /** The rows behind a place of a snapshot, and the measure that they are counted by. */
  private async rowsBehind(opened: Opened, asked: FrozenRecordsRequest['place']): Promise<RowsBehind> {
    mustBeSeen(opened);
    const at = placeIn(opened, asked);
    const { part, ids } = await this.reader.behind(opened, at);
    const those = new Set(ids);
    const { measures = [] } = opened.frozen.parts[part].question;
    const wanted = at.figure && 'measure' in at.figure ? JSON.stringify(at.figure.measure) : undefined;
    const measure = measures.findIndex((each) => JSON.stringify(each) === wanted);
    const rows = (await opened.rows())[part].filter(({ id }) => those.has(id));
    return { part, rows, measure: measure < 0 ? undefined : measure };
  }
}

interface RowsBehind {
  part: number;
  rows: FrozenRow[];
  measure: number | undefined;
}

/** What a record counted for in a figure; nothing where it was not counted. */
function figureOf({ rows, measure }: RowsBehind, id: number): number | null {
  const row = rows.find((each) => each.id === id);
  if (!row) return null;
  return measure === undefined ? 1 : row.figures[measure];
}

/** Two moments as they are answered. */
function compared([was, is]: readonly [Opened, Opened], other: ComparedWith): CompareAnswer {
  const records = ({ frozen: { parts } }: Opened) =>
    JSON.stringify(parts.map(({ question }) => question.where));
  return {
    was: was.answer,
    is: is.answer,
    // How it is now is asked in the same words, about the days that these meant then.
    isSameQuestion: other === 'now' || records(was) === records(is),
    isSameReader: was.asSeenBy === is.asSeenBy,
  };
}

/** A place with its figure instead of the figure's key. */
function placeIn(
  { frozen: { design } }: Opened,
  { figure: named, ...at }: FrozenRecordsRequest['place'],
): RowPlace {
  if (named === undefined) return at;
  const figure = design.figures.find((each) => each.key === named);
  if (!figure) throw invalidInput([{ field: 'place.figure', message: 'There is no such figure' }]);
  return { ...at, figure };
}

/** The report of a snapshot about the very days it was about then. */
function sameDays({ frozen: { design, moment } }: Opened): ReportDesign {
  const { period } = design;
  if (!period) return design;
  const { from, to } = daysOf(period, moment);
  return { ...design, period: { ...period, in: { from, to: addDays(to, -1) } } };
}
