import { Injectable } from '@nestjs/common';
import { InTimeline, RecordTimeline } from '../timeline/timeline-source';

/** Files, when they were added. */
@InTimeline()
@Injectable()
export class FileTimeline extends RecordTimeline {
  readonly kind = 'file';
  readonly place = 3;
  protected readonly instant = 'createdAt';
  protected readonly says = ['name'];
}
