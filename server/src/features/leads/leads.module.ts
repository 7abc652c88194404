import { Module } from '@nestjs/common';
import { MatchingModule } from '../matching/matching.module';
import { ConversionController } from './conversion.controller';
import { QualifyingController } from './qualifying.controller';
import { Conversion } from './conversion';

/** Qualifying leads and converting them. */
@Module({
  imports: [MatchingModule],
  controllers: [ConversionController, QualifyingController],
  providers: [Conversion],
})
export class LeadsModule {}
