import { type ObjectKey } from '../catalogue';
import { type Condition } from '../questions/question';
import { type Act } from './acts';
import { type Operation, type Reach, type SetupOperation } from './reach';

/** A role that somebody has, and through what. */
export interface RoleHeld {
  key: string;
  name: string;
  /** Their own role; given to them beside it; given to a team they are in. */
  through: 'own' | 'grant' | 'team';
  /** The team, where it is given to one. */
  team: number | null;
}

/** What a role says of records of an object. */
export interface SaidByRole {
  role: string;
  /** Which records it means, for an exception. */
  where: Condition | null;
  reach: Reach;
}

/** What somebody may do with records of an object. */
export interface ObjectReach {
  object: ObjectKey;
  /** How many there are. */
  total: number;
  /** With how many of them each operation is permitted; left out where there is no such operation. */
  counts: Partial<Record<Operation, number>>;
  /** What their roles say of what is seen. */
  said: SaidByRole[];
  /** How many they see because these are shared with them one by one. */
  shared: number;
  /** A few of those they see, as far as whoever asks sees them too. */
  examples: { id: number; name: string }[];
  /** Fields they do not see, and fields they see and may not change. */
  hidden: string[];
  locked: string[];
}

/** What somebody can see and do. */
export interface PersonReach {
  person: number;
  roles: RoleHeld[];
  acts: Act[];
  /** What is kept back of the parts they set up. */
  withheld: { act: Act; operations: SetupOperation[] }[];
  objects: ObjectReach[];
}

/** Whether somebody may do something with one record, and what decides. */
export interface RecordVerdict {
  operation: Operation;
  isAllowed: boolean;
  /**
   * What lets it through; where nothing does, what each role says of the record. Empty when it is decided by something
   * else: that they do not see it, or that they see the record it hangs on.
   */
  said: SaidByRole[];
  /** It is shared with them. */
  isShared: boolean;
  /** Not permitted, as the record is not seen. */
  isUnseen: boolean;
}

export interface RecordReach {
  person: number;
  object: ObjectKey;
  id: number;
  name: string;
  verdicts: RecordVerdict[];
}

/** How many records somebody may do something with, before and after a change of a role. */
export interface ReachChange {
  person: number;
  object: ObjectKey;
  operation: Operation;
  before: number;
  after: number;
}

/** What a change of a role would mean for those who have it. */
export interface RolePreview {
  /** Who has the role. */
  people: number[];
  changes: ReachChange[];
  /** What somebody may do from then on, or no longer; of a part of setting up also one thing alone. */
  acts: { person: number; act: Act; operation: SetupOperation | null; gains: boolean }[];
  /** Fields that somebody would see from then on, or no longer. */
  fields: { person: number; object: ObjectKey; field: string; gains: boolean }[];
}
