import { Body, Controller, Delete, Get, HttpCode, Patch, Post, Query, Res } from '@nestjs/common';
import { type Response } from 'express';
import {
  asSeen,
  partsOf,
  policyOf,
  type Actor,
  type AnyRecord,
  type ObjectKey,
  type OwnedParts,
  type RecordAnswer,
  type ListPage,
  type ListedRecord,
  type Written,
} from '@zawn/core';
import { RecordId, ObjectAt } from '../../platform/http/checked';
import { TakesValues } from '../../platform/http/described';
import { Database } from '../../platform/database/database';
import { Problem } from '../../platform/http/problem';
import { Organisation } from '../organisation/organisation';
import { placeIn, withCursors } from '../questions/cursors';
import { Gate } from '../questions/gate';
import { Questions } from '../questions/questions';
import { CurrentActor, Version } from '../../platform/sessions/current-actor';
import { ByHand } from './by-hand';
import { Door, type WriteContext } from './door';
import { listQuestion } from './list-question';
import { successorOf } from './successor';
import { ForPrograms } from '../../platform/sessions/scopes';

/** Records with the columns that were asked for, and what names them and their version. */
const onlyColumns = (rows: readonly AnyRecord[], columns: readonly string[] | undefined): ListedRecord[] =>
  columns
    ? rows.map(
        (row) =>
          Object.fromEntries(
            ['id', 'version', ...columns].map((path) => [path, row[path] ?? null]),
          ) as unknown as ListedRecord,
      )
    : [...rows];

/** Reading and writing records of any object: `/api/v1/leads`, `/api/v1/leads/12`. */
@ForPrograms()
@Controller('api/v1/:objects')
export class RecordsController {
  constructor(
    private readonly door: Door,
    private readonly gate: Gate,
    private readonly database: Database,
    private readonly questions: Questions,
    private readonly organisation: Organisation,
  ) {}

  /**
   * Records of an object, a page at a time: `next` is the cursor of the page that follows, `previous` of the one before. Any field filters; `where`
   * takes a condition, `columns` says what is answered, `sort` in which order.
   */
  @Get()
  async list(
    @CurrentActor() actor: Actor,
    @ObjectAt() object: ObjectKey,
    @Query() query: Record<string, unknown>,
  ): Promise<ListPage> {
    const asked = listQuestion(await this.organisation.catalogue(), object, query);
    const question = await this.questions.checked(asked.question);
    await this.gate.mustBeWhole(actor, question);
    const from = placeIn(question, asked.page.cursor);
    const { limit } = asked.page;
    const page = withCursors(question, await this.gate.recordsBeside(actor, question, { from, limit }));
    return { ...page, rows: onlyColumns(page.rows, question.columns) };
  }

  /** A record, or the one that it was merged into. */
  @Get(':id')
  async read(
    @CurrentActor() actor: Actor,
    @ObjectAt() object: ObjectKey,
    @RecordId() id: number,
    @Res({ passthrough: true }) response: Response,
  ): Promise<RecordAnswer> {
    const record = await this.found(actor, object, id);
    response.setHeader('ETag', `"${record.version}"`);
    const kinds = partsOf(object);
    const parts = await this.partsSeen(actor, kinds, record.id);
    return {
      record,
      names: await this.gate.namesIn(actor, object, [record]),
      ...(kinds.length > 0 ? { parts } : {}),
      may: await this.gate.mayWith(actor, object, record),
    };
  }

  /** Creates a record. */
  @TakesValues({ purpose: 'create' })
  @Post()
  async create(
    @ByHand() writing: WriteContext,
    @ObjectAt() object: ObjectKey,
    @Body() values: unknown,
  ): Promise<Written<AnyRecord>> {
    return this.door.write(writing, (unit) => unit.create(object, values));
  }

  /** Changes some fields of a record; the others stay. */
  @TakesValues({ purpose: 'change' })
  @Patch(':id')
  async change(
    @ByHand() writing: WriteContext,
    @Version() version: number,
    @ObjectAt() object: ObjectKey,
    @RecordId() id: number,
    @Body() values: unknown,
  ): Promise<Written<AnyRecord>> {
    return this.door.write(writing, (unit) => unit.change(object, id, values, { version }));
  }

  /** Deletes a record. A record of the everyday work goes to the bin and can be brought back. */
  @Delete(':id')
  @HttpCode(200)
  async remove(
    @ByHand() writing: WriteContext,
    @Version() version: number,
    @ObjectAt() object: ObjectKey,
    @RecordId() id: number,
  ): Promise<Pick<Written<unknown>, 'unit' | 'label'>> {
    const { unit, label } = await this.door.write(writing, (work) => work.remove(object, id, version));
    return { unit, label };
  }

  /** The parts of a record, each without the fields that somebody does not see. */
  private async partsSeen(actor: Actor, kinds: readonly OwnedParts[], owner: number) {
    const catalogue = await this.organisation.catalogue();
    const lists = kinds.map(async (kind) => {
      const parts = await this.gate.partsOn(kind, owner);
      return [kind.as, parts.map((part) => asSeen(policyOf(actor), catalogue, kind.object, part))] as const;
    });
    return Object.fromEntries(await Promise.all(lists));
  }

  /** A record by its id, or by that of one that was merged into it. */
  private async found(actor: Actor, object: ObjectKey, id: number): Promise<AnyRecord> {
    try {
      return await this.gate.find(actor, object, id);
    } catch (error) {
      const into =
        error instanceof Problem ? await successorOf(this.database.reading.manager, object, id) : undefined;
      if (into === undefined) throw error;
      return this.gate.find(actor, object, into);
    }
  }
}
