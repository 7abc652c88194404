import { type LoggedChange } from '../records/api';

/**
 * What an entry of each kind says beside when it was. A feature adds its own kinds beside their other types, by
 * extending this interface.
 */
export interface TimelineKinds {
  change: {
    change: LoggedChange;
    /** The name of the record changed, when it is another than the one looked at. */
    on: string | null;
    /** The currency of its money fields, where the record has one. */
    currency: string | null;
  };
}

/** One entry of a timeline. */
export type TimelineEntry = {
  [Kind in keyof TimelineKinds]: { kind: Kind; at: string; id: number } & TimelineKinds[Kind];
}[keyof TimelineKinds];

export interface TimelinePage {
  rows: TimelineEntry[];
  next: string | null;
}
