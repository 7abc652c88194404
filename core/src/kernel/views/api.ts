export interface ListSummary {
  id: number;
  count: number;
}

/** What is kept by itself and shown elsewhere, where it can be removed under whoever looks at it. */
export type ReportOrView = { report: number } | { view: number };
/** What is shown instead: another one that is kept, or one that comes with Zawn. */
export type Replacement = ReportOrView | { ready: string };

/** Something that shows a view or a report. */
export interface ShownOn {
  /** In words: `the dashboard “The coast”`, `a private dashboard`. */
  name: string;
  /** Whether the person may have it show something else. */
  mayChange: boolean;
}

/** Has whatever shows one thing, and is the person's to change, show another. */
export interface ReplaceRequest {
  of: ReportOrView;
  instead: Replacement;
}

/** How many were changed. */
export interface ReplaceAnswer {
  changed: number;
}

/** Who else would miss a view, a list or a report. */
export interface Usage {
  /** People who pinned it or open an object with it. */
  people: string[];
  /** Views that ask for it. */
  views: string[];
  /** Rules and forms that ask for it, in words. */
  rules?: string[];
  /** What shows it. */
  shownOn?: ShownOn[];
}
