import { Controller, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import { openWorkOf, type Actor, type HandOver, type HandOverPreview, type Job } from '@zawn/core';
import { CheckedBody, RecordId, type CheckedAs } from '../../platform/http/checked';
import { ByHand } from '../../kernel/records/by-hand';
import { type WriteContext } from '../../kernel/records/door';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { LooksAfterPeople } from '../../kernel/sessions/looks-after-people';
import { Leaving } from './leaving';

const handOver = Joi.object<{ handOver: HandOver[] }>({
  handOver: Joi.array()
    .items(
      Joi.object({
        object: Joi.string()
          .valid(...openWorkOf(0).map(({ object }) => object))
          .required(),
        to: Joi.array().items(Joi.number().integer().positive()).min(1).max(50).unique().required(),
        where: Joi.object().unknown().meta({ 'x-schema': 'Condition' }),
      }),
    )
    .max(50)
    .required(),
});

@LooksAfterPeople()
@Controller('api/v1/people/:id/leaving')
export class LeavingController {
  constructor(private readonly leaving: Leaving) {}

  /** What would become of the open work of somebody who leaves. */
  @Post('preview')
  @HttpCode(200)
  preview(
    @CurrentActor() actor: Actor,
    @RecordId() id: number,
    @CheckedBody(handOver) body: CheckedAs<typeof handOver>,
  ): Promise<HandOverPreview> {
    return this.leaving.preview(actor, id, body.handOver);
  }

  /** Lets somebody leave: out at once, their open work to others. The answer is the job, which may have ended already. */
  @Post()
  @HttpCode(200)
  run(
    @ByHand() writing: WriteContext,
    @RecordId() id: number,
    @CheckedBody(handOver) body: CheckedAs<typeof handOver>,
  ): Promise<Job> {
    return this.leaving.run(writing, id, body.handOver);
  }
}
