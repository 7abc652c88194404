import { Module } from '@nestjs/common';
import { Rates } from './rates';
import { Retention } from './retention';
import { RetentionController } from './retention.controller';
import { HolidaysController } from './holidays.controller';
import { RatesController } from './rates.controller';

/** What is set for the whole organisation, its rates, and for how long what is kept. */
@Module({
  controllers: [RatesController, HolidaysController, RetentionController],
  providers: [Rates, Retention],
})
export class OrganisationModule {}
