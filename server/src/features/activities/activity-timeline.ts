import { Injectable } from '@nestjs/common';
import { InTimeline, RecordTimeline } from '../../kernel/timeline/timeline-source';

/** Activities that were done, when they were. */
@InTimeline()
@Injectable()
export class ActivityTimeline extends RecordTimeline {
  readonly kind = 'activity';
  readonly place = 2;
  protected readonly instant = 'doneAt';
  protected readonly says = ['name', 'result'];
}
