import { Controller, Get } from '@nestjs/common';
import { type Actor, type UpkeepTrend } from '@zawn/core';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { ForPrograms } from '../../platform/sessions/scopes';
import { UpkeepTrends } from './upkeep-trend';

@ForPrograms()
@Controller('api/v1/upkeep')
export class UpkeepController {
  constructor(private readonly trends: UpkeepTrends) {}

  /** How ready for reports what is within reach was in the last weeks. */
  @Get('trend')
  trend(@CurrentActor() actor: Actor): Promise<UpkeepTrend> {
    return this.trends.of(actor);
  }
}
