import { Module } from '@nestjs/common';
import { AskingController } from './asking.controller';

/** Questions typed in words, read by a grammar made from the catalogue. */
@Module({ controllers: [AskingController] })
export class AskingModule {}
