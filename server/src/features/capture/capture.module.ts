import { Module } from '@nestjs/common';
import { AssignmentModule } from '../assignment/assignment.module';
import { MatchingModule } from '../matching/matching.module';
import { LeadsController } from './leads.controller';
import { Capture } from './capture';

/** Where the ways in meet that bring leads one by one. */
@Module({
  imports: [AssignmentModule, MatchingModule],
  controllers: [LeadsController],
  providers: [Capture],
  exports: [Capture],
})
export class CaptureModule {}
