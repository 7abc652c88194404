import { Module } from '@nestjs/common';
import { GuidesController } from './guides.controller';

/** What is to be found out or done on the way of deals and leads. */
@Module({ controllers: [GuidesController] })
export class GuidesModule {}
