import { Module } from '@nestjs/common';
import { MailboxController } from './mailbox.controller';
import { WebsiteController } from './website.controller';

/** In place of what a company has beside Zawn: its website, and a mail program. */
@Module({ controllers: [WebsiteController, MailboxController] })
export class StandInsModule {}
