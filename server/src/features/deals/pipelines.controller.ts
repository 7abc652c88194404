import { Controller, Get, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import { type Actor, type Job, type StageMeasures, type Written } from '@zawn/core';
import { CheckedBody, RecordId, type CheckedAs } from '../../platform/http/checked';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { ForPrograms } from '../../platform/sessions/scopes';
import { May } from '../../platform/sessions/may';
import { ByHand } from '../../kernel/records/by-hand';
import { type WriteContext } from '../../kernel/records/door';
import { Pipelines, type StageMapping } from './pipelines';

const id = Joi.number().integer().positive();
const ordering = Joi.object<{ stages: number[] }>({
  stages: Joi.array().items(id).min(1).max(200).unique().required(),
});
const retiring = Joi.object<{ to: number }>({ to: id.required().label('To') });
const retiringPipeline = Joi.object<{ stages: StageMapping[] }>({
  stages: Joi.array()
    .items(Joi.object({ stage: id.required().label('Stage'), to: id.required().label('To') }))
    .max(200)
    .unique('stage')
    .required()
    .label('Stages'),
});

@ForPrograms()
@May(
  'setUpPipelines',
  'Your role does not let you set up pipelines. Ask whoever sets up Zawn in your organisation.',
)
@Controller('api/v1')
export class PipelinesController {
  constructor(private readonly pipelines: Pipelines) {}

  /** How stages did in the last twelve months, and how many deals stand open in each. */
  @Get('stage-measures')
  stageMeasures(@CurrentActor() actor: Actor): Promise<StageMeasures> {
    return this.pipelines.measures(actor);
  }

  /** Puts the stages of a pipeline into an order. */
  @Post('pipelines/:id/stage-order')
  @HttpCode(200)
  orderStages(
    @ByHand() writing: WriteContext,
    @RecordId() pipeline: number,
    @CheckedBody(ordering) { stages }: CheckedAs<typeof ordering>,
  ): Promise<Written<null>> {
    return this.pipelines.order(writing, pipeline, stages);
  }

  /** Retires a stage; its open deals go to another. The answer is the job, which may have ended already. */
  @Post('stages/:id/retirement')
  @HttpCode(200)
  retireStage(
    @ByHand() writing: WriteContext,
    @RecordId() stage: number,
    @CheckedBody(retiring) { to }: CheckedAs<typeof retiring>,
  ): Promise<Job> {
    return this.pipelines.retireStage(writing, stage, to);
  }

  /** Retires a pipeline; the open deals of its stages go to stages of another. The answer is the job as well. */
  @Post('pipelines/:id/retirement')
  @HttpCode(200)
  retirePipeline(
    @ByHand() writing: WriteContext,
    @RecordId() pipeline: number,
    @CheckedBody(retiringPipeline) { stages }: CheckedAs<typeof retiringPipeline>,
  ): Promise<Job> {
    return this.pipelines.retirePipeline(writing, pipeline, stages);
  }
}
