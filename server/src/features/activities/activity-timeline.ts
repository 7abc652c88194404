import { Inject, Injectable } from '@nestjs/common';
import { ask, type TimelineEntry } from '@zawn/core';
import { Gate } from '../../kernel/questions/gate';
import { InTimeline, RecordTimeline, type TimelineRequest } from '../../kernel/timeline/timeline-source';

/** Further records of activities that are looked at for one timeline. */
const MOST_FURTHER = 500;

/** Activities that were done, when they were: those about the record, and those about it beside others. */
@InTimeline()
@Injectable()
export class ActivityTimeline extends RecordTimeline {
  readonly kind = 'activity';
  readonly place = 2;
  protected readonly instant = 'doneAt';
  protected readonly says = ['name', 'result'];

  @Inject(Gate) private readonly links: Gate;

  override async entries(request: TimelineRequest): Promise<TimelineEntry[]> {
    const [{ object, ids }] = request.subjects;
    const question = ask('activityLink', { field: object, is: 'anyOf', value: [...ids] });
    const { rows } = await this.links.records(request.actor, question, { offset: 0, limit: MOST_FURTHER });
    const own = await super.entries(request);
    if (rows.length === 0) return own;
    const which = rows.map(({ activity }) => Number(activity));
    const further = await this.of(request, { field: 'id', is: 'anyOf', value: which });
    const told = new Set(own.map(({ id }) => id));
    return [...own, ...further.filter(({ id }) => !told.has(id))];
  }
}
