import { Module } from '@nestjs/common';
import { DealGridController } from './deal-grid.controller';
import { DealsController } from './deals.controller';

/** Winning and losing deals, and the deal grid. */
@Module({ controllers: [DealGridController, DealsController] })
export class DealsModule {}
