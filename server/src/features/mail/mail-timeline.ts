import { Injectable } from '@nestjs/common';
import { InTimeline, RecordTimeline } from '../../kernel/timeline/timeline-source';

/** Mails, when they were sent. */
@InTimeline()
@Injectable()
export class MailTimeline extends RecordTimeline {
  readonly kind = 'mail';
  readonly place = 1;
  protected readonly instant = 'sentAt';
  protected readonly says = ['subject', 'body', 'senderName'];
}
