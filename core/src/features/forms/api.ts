/** Whether what came through a form became a lead, or was held back because it looks like a program's. */
export type SubmissionState = 'taken' | 'held';

/** Where someone came from who filled in a form: the page, what led there, and a campaign's marks. */
export interface SubmissionOrigin {
  page?: string;
  referrer?: string;
  campaign: Record<string, string>;
}

/** What was sent through a web form. */
export interface Submission {
  id: number;
  form: number;
  at: string;
  state: SubmissionState;
  why: string | null;
  /** What was typed, by the field's key. */
  typed: Record<string, string | readonly string[]>;
  origin: SubmissionOrigin;
  consent: string | null;
  /** The lead it became, when that is within reach. */
  lead: { id: number; name: string } | null;
}

/** How much came through a form. */
export interface FormFigures {
  form: number;
  sent: number;
  held: number;
  /** When somebody sent it last. */
  latest: string;
}

export interface SubmissionsPage {
  rows: Submission[];
  total: number;
  /** Goes on behind the submission with this id; null at the end. */
  next: number | null;
}

declare module '../../kernel/timeline/api' {
  interface TimelineKinds {
    submission: { form: string; submission: Submission };
  }
}
