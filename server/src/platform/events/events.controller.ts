import { Controller, Headers, Query, Sse } from '@nestjs/common';
import { concatMap, filter, from, interval, map, merge, takeUntil, type Observable } from 'rxjs';
import { isObjectKey, policyOf, type Actor } from '@zawn/core';
import { Database } from '../database/database';
import { lastChange } from '../database/last-change';
import { Gives } from '../http/described';
import { CurrentActor } from '../sessions/current-actor';
import { Events, UNLOGGED, type Written } from './events';
import { ForPrograms } from '../sessions/scopes';

/** Often enough that no proxy on the way closes a quiet stream. */
const HEARTBEAT_MS = 25_000;

/** The id of an entry of the change log. */
const CHANGE = /^\d{1,15}$/;

interface Message {
  data: object;
  type?: string;
  /** The last change in the log at the time: a browser that was cut off names it when it comes back. */
  id?: string;
}

@ForPrograms()
@Controller('api/v1/events')
export class EventsController {
  constructor(
    private readonly events: Events,
    private readonly database: Database,
  ) {}

  /**
   * Server-sent events: `{objects: ['deal', …]}` after every write to objects of which the person may see some. Told
   * first is what was written since the change named by `after`, or by `Last-Event-ID` of whoever was cut off.
   */
  @Gives('text/event-stream')
  @Sse()
  stream(
    @CurrentActor() actor: Actor,
    @Headers('Last-Event-ID') last: string | undefined,
    @Query('after') after: unknown,
  ): Observable<Message> {
    const policy = policyOf(actor);
    const isSeen = (written: Written) => !isObjectKey(written) || policy.scope(written) !== 'none';
    const seen = CHANGE.exec(last ?? String(after))?.[0];
    const missed = seen === undefined ? [] : from(this.writtenSince(Number(seen)));
    return merge(
      merge(missed, this.events.stream).pipe(
        map((objects) => objects.filter(isSeen)),
        filter((objects) => objects.length > 0),
        concatMap(async (objects) => ({
          id: String(await lastChange(this.database.reading.manager)),
          data: { objects },
        })),
      ),
      interval(HEARTBEAT_MS).pipe(map(() => ({ data: {}, type: 'heartbeat' }))),
    ).pipe(takeUntil(this.events.endOf(actor.personId)));
  }

  /** What was written to behind a change; what is not in the log is taken for written. */
  private async writtenSince(change: number): Promise<Written[]> {
    const rows = await this.database.reading.manager
      .createQueryBuilder()
      .select('DISTINCT c.object', 'object')
      .from('change', 'c')
      .where('c.id > :change', { change })
      .getRawMany<{ object: string }>();
    return [...rows.map(({ object }) => object).filter(isObjectKey), ...UNLOGGED];
  }
}
