import { Injectable } from '@nestjs/common';
import { InTimeline, RecordTimeline } from '../timeline/timeline-source';

/** Files, when they were added; a recording stands with its call. */
@InTimeline()
@Injectable()
export class FileTimeline extends RecordTimeline {
  readonly kind = 'file';
  readonly place = 3;
  protected readonly instant = 'createdAt';
  protected readonly says = ['name'];
  protected override readonly where = { field: 'use', is: 'isEmpty' } as const;
}
