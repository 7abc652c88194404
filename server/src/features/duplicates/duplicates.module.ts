import { Module } from '@nestjs/common';
import { DuplicatesController } from './duplicates.controller';
import { Duplicates } from './duplicates';
import { Merging } from './merging';
import { PairSearch, PairsOfWritten } from './pair-search';

/** Records that are probably one, and making them one. */
@Module({ controllers: [DuplicatesController], providers: [Duplicates, Merging, PairSearch, PairsOfWritten] })
export class DuplicatesModule {}
