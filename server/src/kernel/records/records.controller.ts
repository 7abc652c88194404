import { Body, Controller, Delete, Get, HttpCode, Param, Patch, Post, Query, Res } from '@nestjs/common';
import { type Response } from 'express';
import {
  objectOfPath,
  type Actor,
  type AnyRecord,
  type ObjectKey,
  type RecordAnswer,
  type RecordsPage,
  type Written,
} from '@zawn/core';
import { Database } from '../../platform/database/database';
import { Problem } from '../../platform/http/problem';
import { recordId } from '../../platform/http/record-id';
import { Organisation } from '../organisation/organisation';
import { cursorOf, placeIn } from '../questions/cursors';
import { Gate } from '../questions/gate';
import { Questions } from '../questions/questions';
import { CurrentActor, Version } from '../../platform/sessions/current-actor';
import { ByHand } from './by-hand';
import { Door, type WriteContext } from './door';
import { listQuestion } from './list-question';
import { successorOf } from './successor';
import { ForPrograms } from '../../platform/sessions/scopes';

/** The object meant by the noun of an address. */
function objectAt(path: string): ObjectKey {
  const object = objectOfPath(path);
  if (!object) throw new Problem('not-found', 'There is nothing at this address.');
  return object;
}

/** Records with the columns that were asked for, and what names them and their version. */
const onlyColumns = (rows: readonly AnyRecord[], columns: readonly string[] | undefined): AnyRecord[] =>
  columns
    ? rows.map(
        (row) =>
          Object.fromEntries(
            ['id', 'version', ...columns].map((path) => [path, row[path] ?? null]),
          ) as unknown as AnyRecord,
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
   * Records of an object, a page at a time: `next` is the cursor of the page that follows. Any field filters; `where`
   * takes a condition, `columns` says what is answered, `sort` in which order.
   */
  @Get()
  async list(
    @CurrentActor() actor: Actor,
    @Param('objects') path: string,
    @Query() query: Record<string, unknown>,
  ): Promise<RecordsPage> {
    const object = objectAt(path);
    const asked = listQuestion(await this.organisation.catalogue(), object, query);
    const question = await this.questions.checked(asked.question);
    await this.gate.mustBeWhole(actor, question);
    const after = placeIn(question, asked.page.cursor);
    const { place, rows, ...answer } = await this.gate.recordsBehind(actor, question, {
      after,
      limit: asked.page.limit,
    });
    return { ...answer, rows: onlyColumns(rows, question.columns), next: place && cursorOf(question, place) };
  }

  @Get(':id')
  async read(
    @CurrentActor() actor: Actor,
    @Param('objects') path: string,
    @Param('id') id: string,
    @Res({ passthrough: true }) response: Response,
  ): Promise<RecordAnswer> {
    const object = objectAt(path);
    const record = await this.found(actor, object, recordId(id));
    response.setHeader('ETag', `"${record.version}"`);
    return { record, names: await this.gate.namesIn(actor, object, [record]) };
  }

  @Post()
  async create(
    @ByHand() writing: WriteContext,
    @Param('objects') path: string,
    @Body() values: unknown,
  ): Promise<Written<AnyRecord>> {
    const object = objectAt(path);
    return this.door.write(writing, (unit) => unit.create(object, values));
  }

  @Patch(':id')
  async change(
    @ByHand() writing: WriteContext,
    @Version() version: number,
    @Param('objects') path: string,
    @Param('id') id: string,
    @Body() values: unknown,
  ): Promise<Written<AnyRecord>> {
    const object = objectAt(path);
    return this.door.write(writing, (unit) => unit.change(object, recordId(id), values, { version }));
  }

  @Delete(':id')
  @HttpCode(200)
  async remove(
    @ByHand() writing: WriteContext,
    @Version() version: number,
    @Param('objects') path: string,
    @Param('id') id: string,
  ): Promise<Pick<Written<unknown>, 'unit' | 'label'>> {
    const object = objectAt(path);
    const { unit, label } = await this.door.write(writing, (work) =>
      work.remove(object, recordId(id), version),
    );
    return { unit, label };
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
