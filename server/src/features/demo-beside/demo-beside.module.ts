import { Module } from '@nestjs/common';
import { DemoBeside } from './demo-beside';
import { DemoBesideController } from './demo-beside.controller';

/** The demo company beside an organisation of one's own. */
@Module({ controllers: [DemoBesideController], providers: [DemoBeside] })
export class DemoBesideModule {}
