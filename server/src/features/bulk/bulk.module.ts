import { Module } from '@nestjs/common';
import { BulkController } from './bulk.controller';
import { Bulk } from './bulk';

/** Doing one thing to many records. */
@Module({ controllers: [BulkController], providers: [Bulk], exports: [Bulk] })
export class BulkModule {}
