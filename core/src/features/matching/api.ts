import { type Candidate } from './candidates';

/** Candidates of a proposal, with the name of each. */
export type NamedCandidate = Candidate & { name: string; detail: string };

/** A record that may be the same person or organisation as another, and why. */
export interface Alike {
  object: 'lead' | 'contact' | 'account';
  id: number;
  name: string;
  reason: string;
}
