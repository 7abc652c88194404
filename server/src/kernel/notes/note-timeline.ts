import { Injectable } from '@nestjs/common';
import { InTimeline, RecordTimeline } from '../timeline/timeline-source';

/** Notes, when they were written. */
@InTimeline()
@Injectable()
export class NoteTimeline extends RecordTimeline {
  readonly kind = 'note';
  readonly place = 4;
  protected readonly instant = 'createdAt';
  protected readonly says = ['body'];
}
