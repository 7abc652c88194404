import { Module } from '@nestjs/common';
import { ClimbController } from './climb.controller';
import { DealContactsController } from './deal-contacts.controller';
import { DealGridController } from './deal-grid.controller';
import { DealMovesController } from './deal-moves.controller';
import { DealsController } from './deals.controller';
import { Pipelines } from './pipelines';
import { PipelinesController } from './pipelines.controller';

/** Winning and losing deals, the deal grid, and the pipelines that deals go through. */
@Module({
  controllers: [
    ClimbController,
    DealContactsController,
    DealGridController,
    DealMovesController,
    DealsController,
    PipelinesController,
  ],
  providers: [Pipelines],
})
export class DealsModule {}
