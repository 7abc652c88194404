import { Injectable } from '@nestjs/common';
import { type TimelineEntry } from '@zawn/core';
import { InTimeline, type TimelineRequest, type TimelineSource } from '../../kernel/timeline/timeline-source';
import { Forms } from './forms';

/** What was sent through forms by those whose story it is. */
@InTimeline()
@Injectable()
export class SubmissionTimeline implements TimelineSource {
  readonly kind = 'submission';
  readonly place = 0;

  constructor(private readonly forms: Forms) {}

  async entries({ subjects, before, text, limit }: TimelineRequest): Promise<TimelineEntry[]> {
    if (text) return [];
    const leads = subjects.find(({ object }) => object === 'lead')?.ids ?? [];
    const found = await this.forms.sentBy(leads, before, limit);
    return found.map(({ form, submission }) => ({
      kind: 'submission',
      at: submission.at,
      id: submission.id,
      form,
      submission,
    }));
  }
}
