import { type ObjectKey } from '../../kernel/catalogue';
import { type Condition } from '../../kernel/questions';

/** An account with those below it, each with what there is at it and below it. */
export interface AccountGroup {
  accounts: {
    id: number;
    name: string;
    parent: number | null;
    /** In the reporting currency. */
    won: number;
    open: number;
    /** Activities done lately, over `GROUP_DAYS`. */
    done: number;
    lastTouchAt: string | null;
  }[];
  /** Deals in no sum, as their currency has no rate. */
  unrated: number;
}

/** To whom some of the work of somebody who leaves goes: several take turns. */
export interface HandOver {
  object: ObjectKey;
  to: readonly number[];
  /** Which of it; all that no earlier line gave away when left out. */
  where?: Condition;
}

/** What a hand-over comes to, kind by kind. */
export interface HandOverPreview {
  kinds: {
    object: ObjectKey;
    /** How many there are. */
    count: number;
    /** How many each colleague gets. */
    given: { person: number; count: number }[];
    /** How many stay in the name of whoever leaves. */
    left: number;
  }[];
  /** How many each line of the hand-over gives away, in their order. */
  lines: number[];
}
