import { Module } from '@nestjs/common';
import { CaptureModule } from '../capture/capture.module';
import { PublishedController } from './published.controller';
import { SubmissionsController } from './submissions.controller';
import { Forms } from './forms';
import { PageKeys } from './page-keys';
import { FormProblems } from './form-problems';
import { SubmissionTimeline } from './submission-timeline';

/** Web forms, and what is sent through them. */
@Module({
  imports: [CaptureModule],
  controllers: [PublishedController, SubmissionsController],
  providers: [Forms, PageKeys, FormProblems, SubmissionTimeline],
})
export class FormsModule {}
