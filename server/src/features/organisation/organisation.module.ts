import { Module } from '@nestjs/common';
import { Rates } from './rates';
import { RatesController } from './rates.controller';

/** What is set for the whole organisation, and its rates. */
@Module({ controllers: [RatesController], providers: [Rates] })
export class OrganisationModule {}
