import { Controller, Sse } from '@nestjs/common';
import { interval, map, merge, takeUntil, type Observable } from 'rxjs';
import { type Actor } from '@zawn/core';
import { CurrentActor } from '../sessions/current-actor';
import { Events } from './events';
import { ForPrograms } from '../sessions/scopes';

/** Often enough that no proxy on the way closes a quiet stream. */
const HEARTBEAT_MS = 25_000;

@ForPrograms()
@Controller('api/v1/events')
export class EventsController {
  constructor(private readonly events: Events) {}

  /** Server-sent events: `{objects: ['deal', …]}` after every write. */
  @Sse()
  stream(@CurrentActor() actor: Actor): Observable<{ data: object; type?: string }> {
    return merge(
      this.events.stream.pipe(map((objects) => ({ data: { objects } }))),
      interval(HEARTBEAT_MS).pipe(map(() => ({ data: {}, type: 'heartbeat' }))),
    ).pipe(takeUntil(this.events.endOf(actor.personId)));
  }
}
