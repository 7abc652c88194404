import { type Replacement, type Showable } from './api';

/** Whether one thing can stand in the place of another: it is of the same kind, or comes with Zawn where its kind does. */
export const canStandFor = (instead: Replacement, of: Showable): boolean =>
  'ready' in instead ? !('snapshot' in of) : Object.keys(instead).join() === Object.keys(of).join();
