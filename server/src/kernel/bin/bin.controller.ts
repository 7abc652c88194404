import { Body, Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import Joi from 'joi';
import { objectOfPath, viewed, type Actor, type BinEntry, type ObjectKey, type Written } from '@zawn/core';
import { checked } from '../../platform/http/checked';
import { notFound } from '../../platform/http/problem';
import { type Writing } from '../records/door';
import { Asking } from '../../platform/sessions/asking';
import { ByHand } from '../records/by-hand';
import { Bin } from './bin';
import { ForPrograms } from '../../platform/sessions/scopes';

const restoring = Joi.object<{ object: ObjectKey; id: number }>({
  object: Joi.string()
    .valid(...viewed.map(({ key }) => key))
    .required(),
  id: Joi.number().integer().positive().required(),
});

@ForPrograms()
@Controller('api/v1/bin')
export class BinController {
  constructor(private readonly bin: Bin) {}

  /** How much of each object can be brought back. */
  @Get()
  async counts(@Asking() actor: Actor): Promise<{ counts: Partial<Record<ObjectKey, number>> }> {
    return { counts: await this.bin.counts(actor) };
  }

  /** What of one object was deleted within the last thirty days. */
  @Get(':objects')
  async entries(@Asking() actor: Actor, @Param('objects') path: string): Promise<{ entries: BinEntry[] }> {
    const object = objectOfPath(path);
    if (!object || !viewed.some(({ key }) => key === object)) throw notFound('This part of the bin');
    return { entries: await this.bin.entries(actor, object) };
  }

  @Post('restore')
  @HttpCode(200)
  restore(@ByHand() writing: Writing, @Body() body: unknown): Promise<Written<null>> {
    const { object, id } = checked(restoring, body);
    return this.bin.restore(writing, object, id);
  }
}
