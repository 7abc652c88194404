import { Module } from '@nestjs/common';
import { UpkeepController } from './upkeep.controller';
import { UpkeepTrends } from './upkeep-trend';

/** How well what is on file is looked after, week by week. */
@Module({ controllers: [UpkeepController], providers: [UpkeepTrends] })
export class UpkeepModule {}
