import { Module } from '@nestjs/common';
import { DuplicatesController } from './duplicates.controller';
import { Duplicates } from './duplicates';
import { Merging } from './merging';

/** Records that are probably one, and making them one. */
@Module({ controllers: [DuplicatesController], providers: [Duplicates, Merging] })
export class DuplicatesModule {}
