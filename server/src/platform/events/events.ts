import { Injectable } from '@nestjs/common';
import { filter, Subject, type Observable } from 'rxjs';
import { type ObjectKey } from '@zawn/core';

/** What is told of and does not stand in the change log: what people were told, and the call they are on. */
export const UNLOGGED = ['notice', 'phoneCall'] as const;

/** What can have been written: a kind of record, or something that no log holds. */
export type Written = ObjectKey | (typeof UNLOGGED)[number];

/** Tells open browsers which objects were written to, and nothing more: they ask again what they may see. */
@Injectable()
export class Events {
  private readonly writes = new Subject<Written[]>();
  readonly stream = this.writes.asObservable();

  private readonly ends = new Subject<number>();

  /** Ends what a person's browsers listen to. */
  end(person: number): void {
    this.ends.next(person);
  }

  /** Emits when what a person's browsers listen to is to end. */
  endOf(person: number): Observable<number> {
    return this.ends.pipe(filter((each) => each === person));
  }

  tell(objects: ReadonlySet<Written>): void {
    if (objects.size > 0) this.writes.next([...objects]);
  }
}
