import { Body, Controller, HttpCode, Param, Post } from '@nestjs/common';
import Joi from 'joi';
import { outcomes } from '@zawn/core';
import { checked } from '../http/checked';
import { Problem } from '../http/problem';
import { recordId } from '../http/record-id';
import { Door, type Writing } from '../records/door';
import { type WrittenRecord } from '../records/records.controller';
import { ByHand, Version } from '../sessions/asking';

const doing = Joi.object<{ result?: string | null; outcome?: string | null }>({
  result: Joi.string().max(5000).allow('', null).label('Note'),
  outcome: Joi.string()
    .valid(...outcomes.map(({ key }) => key), null)
    .label('Outcome')
    .messages({ 'any.only': 'Outcome must be one of the list' }),
});

@Controller('api/v1/activities/:id')
export class ActivitiesController {
  constructor(private readonly door: Door) {}

  /** Marks an activity as done now, by the person asking, with what came of it. */
  @Post('done')
  @HttpCode(200)
  async done(
    @ByHand() writing: Writing,
    @Version() version: number,
    @Param('id') id: string,
    @Body() body: unknown,
  ): Promise<WrittenRecord> {
    const { result = null, outcome = null } = checked(doing, body);
    const { value, ...rest } = await this.door.write(writing, async (unit) => {
      const activity = await unit.find('activity', recordId(id));
      if (activity.doneAt) throw new Problem('conflict', 'This is done already.');
      unit.label = `Done: “${String(activity.name)}”`;
      const done = { doneAt: unit.at, doneBy: unit.actor.personId, result, outcome };
      return unit.change('activity', activity.id, done, { version, setter: 'feature' });
    });
    return { ...rest, record: value };
  }
}
