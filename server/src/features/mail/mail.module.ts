import { Module } from '@nestjs/common';
import { CaptureModule } from '../capture/capture.module';
import { MailsController } from './mails.controller';
import { DetailsController } from './details.controller';
import { MailIn } from './mail-in';
import { MailReader } from './mail-reader';
import { MailStandIn } from './mail-stand-in';
import { Outbox } from './outbox';
import { MailTimeline } from './mail-timeline';

/** Mail that comes in, and copies of notices that go out. */
@Module({
  imports: [CaptureModule],
  controllers: [MailsController, DetailsController],
  providers: [MailIn, MailReader, MailStandIn, Outbox, MailTimeline],
})
export class MailModule {}
