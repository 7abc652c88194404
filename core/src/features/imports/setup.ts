import { type DateOrder, type DecimalSign } from './conventions';
import { type ColumnMap } from './guess-columns';
import { type ReadingChoice } from './table';
import { type TargetKey } from './targets';

/** By what a row is recognised as a record that is there already. */
export type MatchKey = 'id' | 'externalId' | 'number' | 'email' | 'domain' | 'name';

/** What two records that are the same cannot both have and differ in, beside what they are matched by. */
export const strongKeys: Record<TargetKey, readonly string[]> = {
  lead: ['externalId', 'email', 'phone'],
  contact: ['externalId', 'email', 'phone'],
  account: ['externalId', 'domain'],
  deal: ['externalId', 'number'],
  activity: ['externalId'],
};

/** What a record can be recognised by, the surest first. */
export const matchKeys: Record<TargetKey, readonly MatchKey[]> = {
  lead: ['id', 'externalId', 'email', 'name'],
  contact: ['id', 'externalId', 'email', 'name'],
  account: ['id', 'externalId', 'domain', 'name'],
  deal: ['id', 'externalId', 'number', 'name'],
  activity: ['id', 'externalId', 'name'],
};

/** How a match is said: “Same email”. */
export const matchInWords: Record<MatchKey, string> = {
  id: 'same Zawn id',
  externalId: 'same external id',
  number: 'same number',
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
  /** Of amounts that say none, where no column does; the organisation’s when left out. */
  currency?: string;
  /** How names of people stand in one column: `Runa Seagrave`, or `Seagrave, Runa`. */
  names?: 'asWritten' | 'lastFirst';
  /**
   * What a cell that cannot be read does, by path: it is left empty and noted, or keeps its row out. Left out, optional
   * fields are left empty, and rows are refused for what is required or told apart by.
   */
  bad?: Readonly<Record<string, 'empty' | 'refuse'>>;
  /** What becomes of rows that may mean somebody on file and may not: they are never written over them. */
  onMaybe?: 'create' | 'skip';
  /** What becomes of accounts that are probably on file under a name written otherwise; `new` when left out. */
  alike?: 'same' | 'new';
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
