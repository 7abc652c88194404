import { Injectable } from '@nestjs/common';
import { Subject } from 'rxjs';
import { type ObjectKey } from '@zawn/core';

/** Tells open browsers which objects were written to, and nothing more: they ask again what they may see. */
@Injectable()
export class Events {
  private readonly writes = new Subject<ObjectKey[]>();
  readonly stream = this.writes.asObservable();

  tell(objects: ReadonlySet<ObjectKey>): void {
    if (objects.size > 0) this.writes.next([...objects]);
  }
}
