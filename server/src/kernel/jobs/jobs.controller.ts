import { Controller, Get, HttpCode, Post } from '@nestjs/common';
import { type Actor, type Job } from '@zawn/core';
import { RecordId } from '../../platform/http/checked';
import { type Asked } from '../../platform/database/once';
import { CurrentActor, Once } from '../../platform/sessions/current-actor';
import { Jobs } from './jobs';
import { ForPrograms } from '../../platform/sessions/scopes';

@ForPrograms()
@Controller('api/v1/jobs')
export class JobsController {
  constructor(private readonly jobs: Jobs) {}

  /** How far one of the person's own jobs is. */
  @Get(':id')
  read(@CurrentActor() actor: Actor, @RecordId() id: number): Promise<Job> {
    return this.jobs.get(actor, id);
  }

  /** Stops one of the person’s own jobs. What it wrote already stays, and can be undone. */
  @Post(':id/cancel')
  @HttpCode(200)
  cancel(
    @CurrentActor() actor: Actor,
    @Once() asked: Asked | undefined,
    @RecordId() id: number,
  ): Promise<Job> {
    return this.jobs.cancel(actor, id, asked);
  }
}
