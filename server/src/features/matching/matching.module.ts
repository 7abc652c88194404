import { Module } from '@nestjs/common';
import { AlikeFinder } from './alike';

/** Whom a new person may be on file. */
@Module({ providers: [AlikeFinder], exports: [AlikeFinder] })
export class MatchingModule {}
