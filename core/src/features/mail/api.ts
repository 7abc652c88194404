import { type AnyRecord } from '../../kernel/catalogue';

/** What becomes of a message to a capture address. */
export type MailOutcome = 'lead' | 'timeline' | 'automatic' | 'bounce' | 'list' | 'colleague' | 'loop';

/** A message that came to a capture address, and what became of it. */
export interface MailArrival {
  id: number;
  at: string;
  sender: string;
  subject: string;
  /** The capture address it came to; null for one that was dropped in as a file. */
  address: string | null;
  outcome: MailOutcome;
  why: string | null;
  mail: number | null;
  lead: number | null;
}

export interface MailArrivalsPage {
  /** With the record on whose story each stands. */
  rows: (MailArrival & { on: { object: 'lead' | 'contact'; id: number } | null })[];
  /** Goes on behind the one with this id; null at the end. */
  next: number | null;
}

/** A file that came with an email. */
export interface Attachment {
  name: string;
  type: string;
  size: number;
  /** The fingerprint of its content. */
  hash: string;
}

declare module '../../kernel/timeline/api' {
  interface TimelineKinds {
    mail: { record: AnyRecord };
  }
}
