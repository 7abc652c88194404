import { Controller, Sse } from '@nestjs/common';
import { filter, interval, map, merge, takeUntil, type Observable } from 'rxjs';
import { policyOf, type Actor } from '@zawn/core';
import { CurrentActor } from '../sessions/current-actor';
import { Events, type Written } from './events';
import { Gives } from '../http/described';
import { ForPrograms } from '../sessions/scopes';

/** Often enough that no proxy on the way closes a quiet stream. */
const HEARTBEAT_MS = 25_000;

@ForPrograms()
@Controller('api/v1/events')
export class EventsController {
  constructor(private readonly events: Events) {}

  /** Server-sent events: `{objects: ['deal', …]}` after every write to objects of which the person may see some. */
  @Gives('text/event-stream')
  @Sse()
  stream(@CurrentActor() actor: Actor): Observable<{ data: object; type?: string }> {
    const policy = policyOf(actor);
    const isSeen = (written: Written) => written === 'notice' || policy.scope(written) !== 'none';
    return merge(
      this.events.stream.pipe(
        map((objects) => objects.filter(isSeen)),
        filter((objects) => objects.length > 0),
        map((objects) => ({ data: { objects } })),
      ),
      interval(HEARTBEAT_MS).pipe(map(() => ({ data: {}, type: 'heartbeat' }))),
    ).pipe(takeUntil(this.events.endOf(actor.personId)));
  }
}
