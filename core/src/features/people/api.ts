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
