/** A backup that Zawn made by itself. */
export interface BackupKept {
  name: string;
  at: string;
  bytes: number;
}

/** What is kept for a bad day. */
export interface Backups {
  /** Where they are kept; null where Zawn makes none by itself. */
  folder: string | null;
  /** How many of them are kept. */
  keeps: number;
  /** The latest first. */
  kept: BackupKept[];
  isMaking: boolean;
  /** By how many minutes the clock of the machine stands before the last change; null where it does not. */
  clockBehind: number | null;
  /** Why the last one did not come off; null when it did. */
  failure: string | null;
}
