import { Module } from '@nestjs/common';
import { TargetEntriesController } from './target-entries.controller';
import { ProgressController } from './progress.controller';

/** How a period is going. */
@Module({ controllers: [ProgressController, TargetEntriesController] })
export class ForecastModule {}
