/** Records left as they are, and why. */
export interface JobRefusal {
  id: number;
  name: string;
  reason: string;
}

/** Long work that goes on by itself: how far it is, and how it ended. */
export interface Job {
  id: number;
  kind: 'bulk' | 'undo' | 'leaving' | 'territories' | 'retirement';
  /** What it does, in words. */
  label: string;
  state: 'waiting' | 'running' | 'done' | 'cancelled' | 'failed';
  done: number;
  total: number;
  /** The unit by which all of it can be undone. */
  unit: number | null;
  changed: number;
  refused: number;
  /** The first of what was refused. */
  refusals: JobRefusal[];
}
