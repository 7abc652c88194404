export interface ListSummary {
  id: number;
  count: number;
}

/** Who else would miss a view or a list. */
export interface Usage {
  /** People who pinned it or open an object with it. */
  people: string[];
  /** Views that ask for it. */
  views: string[];
  /** Rules and forms that ask for it, in words. */
  rules?: string[];
}
