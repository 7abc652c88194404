import { Module } from '@nestjs/common';
import { BulkModule } from '../bulk/bulk.module';
import { ExportsController } from './exports.controller';
import { Exports } from './exports';

/** Records handed out as files. */
@Module({ imports: [BulkModule], controllers: [ExportsController], providers: [Exports] })
export class ExportsModule {}
