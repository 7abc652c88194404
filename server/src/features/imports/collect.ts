import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';

let collectNow: (() => void) | undefined;

/**
 * Has the engine give back at once what nothing refers to any more. By itself it does so only when it needs room,
 * which a thread that writes for ten seconds does not: a file’s cells would lie there until the end.
 */
export function collect(): void {
  if (!collectNow) {
    setFlagsFromString('--expose-gc');
    collectNow = runInNewContext('gc') as () => void;
  }
  collectNow();
}
