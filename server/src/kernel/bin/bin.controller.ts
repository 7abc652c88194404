import { Controller, Get, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import { customisable, type Actor, type BinEntry, type ObjectKey, type Written } from '@zawn/core';
import { CheckedBody, type CheckedAs, ObjectAt } from '../../platform/http/checked';
import { type WriteContext } from '../records/door';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { ByHand } from '../records/by-hand';
import { Bin } from './bin';
import { ForPrograms } from '../../platform/sessions/scopes';

const restoring = Joi.object<{ object: ObjectKey; id: number }>({
  object: Joi.string()
    .valid(...customisable.map(({ key }) => key))
    .required(),
  id: Joi.number().integer().positive().required(),
});

@ForPrograms()
@Controller('api/v1/bin')
export class BinController {
  constructor(private readonly bin: Bin) {}

  /** How much of each object can be brought back. */
  @Get()
  async counts(@CurrentActor() actor: Actor): Promise<{ counts: Partial<Record<ObjectKey, number>> }> {
    return { counts: await this.bin.counts(actor) };
  }

  /** What of one object was deleted within the last thirty days. */
  @Get(':objects')
  async entries(
    @CurrentActor() actor: Actor,
    @ObjectAt(customisable.map(({ key }) => key)) object: ObjectKey,
  ): Promise<{ entries: BinEntry[] }> {
    return { entries: await this.bin.entries(actor, object) };
  }

  /** Brings a record back from the bin. */
  @Post('restore')
  @HttpCode(200)
  restore(
    @ByHand() writing: WriteContext,
    @CheckedBody(restoring) { object, id }: CheckedAs<typeof restoring>,
  ): Promise<Written<null>> {
    return this.bin.restore(writing, object, id);
  }
}
