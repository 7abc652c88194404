export interface ListSummary {
  id: number;
  count: number;
}

/** What is kept by itself and shown elsewhere, where it can be removed under whoever looks at it. */
export type Showable = { report: number } | { view: number } | { dashboard: number } | { snapshot: number };
/** What is shown instead: another one that is kept, or one that comes with Zawn. */
export type Replacement = Showable | { ready: string };

/** Something that shows what is kept elsewhere. */
export interface ShownOn {
  /** In words: `the dashboard “The coast”`, `a private dashboard`. */
  name: string;
  /** Whether the person may have it show something else. */
  mayChange: boolean;
  /** Set where it was made of it and goes on when that is gone. */
  goesOn?: true;
}

/** Has whatever shows one thing, and is the person's to change, show another. */
export interface ReplaceRequest {
  of: Showable;
  instead: Replacement;
}

/** How many were changed. */
export interface ReplaceAnswer {
  changed: number;
}

/** Who else would miss something that is kept. */
export interface Usage {
  /** People who pinned it, open an object with it, or begin with it. */
  people: string[];
  /** Views that ask for it. */
  views: string[];
  /** Rules and forms that ask for it, in words. */
  rules?: string[];
  /** What shows it. */
  shownOn?: ShownOn[];
}
