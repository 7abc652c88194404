import { Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { type Actor, type Job } from '@zawn/core';
import { recordId } from '../../platform/http/record-id';
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
  read(@CurrentActor() actor: Actor, @Param('id') id: string): Promise<Job> {
    return this.jobs.get(actor, recordId(id));
  }

  @Post(':id/cancel')
  @HttpCode(200)
  cancel(
    @CurrentActor() actor: Actor,
    @Once() asked: Asked | undefined,
    @Param('id') id: string,
  ): Promise<Job> {
    return this.jobs.cancel(actor, recordId(id), asked);
  }
}
