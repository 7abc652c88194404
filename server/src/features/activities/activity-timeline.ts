import { Inject, Injectable } from '@nestjs/common';
import { ask, type RecordOf, type TimelineEntry } from '@zawn/core';
import { Gate } from '../../kernel/questions/gate';
import { InTimeline, RecordTimeline, type TimelineRequest } from '../../kernel/timeline/timeline-source';

/** Activities that are looked for by their ids at once. */
const AT_ONCE = 5000;

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
    const [own, links] = await Promise.all([
      super.entries(request),
      this.links.few<RecordOf<'activityLink'>>(request.actor, question, ['activity']),
    ]);
    const told = new Set(own.map(({ id }) => id));
    const further = links.map(({ activity }) => activity).filter((id) => !told.has(id));
    const entries = [...own];
    for (let from = 0; from < further.length; from += AT_ONCE)
      entries.push(
        ...(await this.of(request, {
          field: 'id',
          is: 'anyOf',
          value: further.slice(from, from + AT_ONCE),
        })),
      );
    return entries;
  }
}
