import { Module } from '@nestjs/common';
import { CaptureModule } from '../capture/capture.module';
import { MailsController } from './mails.controller';
import { ContactSuggestionsController } from './contact-suggestions.controller';
import { MailIn } from './mail-in';
import { MailReader } from './mail-reader';
import { MailStandIn } from './mail-stand-in';
import { Outbox } from './outbox';
import { MailTimeline } from './mail-timeline';

/** Mail that comes in, and copies of notices that go out. */
@Module({
  imports: [CaptureModule],
  controllers: [MailsController, ContactSuggestionsController],
  providers: [MailIn, MailReader, MailStandIn, Outbox, MailTimeline],
})
export class MailModule {}
