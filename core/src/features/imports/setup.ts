import { type DateOrder, type DecimalSign } from './conventions';
import { type ColumnMap } from './guess-columns';
import { type ReadingChoice } from './table';
import { type TargetKey } from './targets';

/** By what a row is recognised as a record that is there already. */
export type MatchKey = 'externalId' | 'email' | 'domain' | 'name';

/** What a record can be recognised by, the surest first. */
export const matchKeys: Record<TargetKey, readonly MatchKey[]> = {
  lead: ['externalId', 'email', 'name'],
  contact: ['externalId', 'email', 'name'],
  account: ['externalId', 'domain', 'name'],
  deal: ['externalId', 'name'],
  activity: ['externalId', 'name'],
};

/** How a match is said: “Same email”. */
export const matchInWords: Record<MatchKey, string> = {
  externalId: 'same external id',
  email: 'same email',
  domain: 'same website',
  name: 'same name',
};

/** Everything a person chooses for an import; the guesses fill it in first. */
export interface ImportSetup {
  target: TargetKey;
  reading: Omit<ReadingChoice, 'most'>;
  columns: ColumnMap;
  dates: DateOrder;
  decimal: DecimalSign;
  /** Whose the new records are where no column says so: a person’s, or as the assignment rules say. */
  owner: { by: 'person'; id: number } | { by: 'rules' };
  /** Put on every record created or updated. */
  tags: readonly string[];
  /** The list that every record created or updated is put on: one that is there, or a new one. */
  list: { id: number } | { name: string } | null;
  /** Tried in this order. */
  match: readonly MatchKey[];
  onMatch: 'update' | 'skip' | 'create';
  /** What an empty cell does to a record that is there: leaves the old value, or empties the field. */
  blanks: 'keep' | 'clear';
  /** What a cell does to a field of several values: adds to them, or replaces them. */
  several: 'add' | 'replace';
  /** What texts stand for that are no choice and nobody’s name, by path and lower-case text; null leaves the cell empty. */
  meanings: Readonly<Record<string, Readonly<Record<string, string | number | null>>>>;
}
