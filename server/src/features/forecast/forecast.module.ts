import { Module } from '@nestjs/common';
import { ProgressController } from './progress.controller';

/** How a period is going. */
@Module({ controllers: [ProgressController] })
export class ForecastModule {}
