import { type LoggedChange, type TimelineEntry } from '@zawn/core';

/** Changes that one write made to one record, shown as one line. */
export interface Fold {
  kind: 'changes';
  at: string;
  id: number;
  changes: LoggedChange[];
  on: string | null;
  currency: string | null;
}

/** A run of changes of which the first are shown, until one wants to see all. */
export interface Run {
  kind: 'run';
  at: string;
  id: number;
  hidden: number;
}

export type Line = Exclude<TimelineEntry, { kind: 'change' }> | Fold | Run;

/** Whether two changes were made to the same record by one write. */
export const belongTogether = (a: LoggedChange, b: LoggedChange) =>
  a.at === b.at && a.object === b.object && a.record === b.record && a.kind === b.kind;

/** Folds the changes of one moment on one record into one line. */
export function fold(entries: readonly TimelineEntry[]): Line[] {
  const lines: Line[] = [];
  for (const entry of entries) {
    if (entry.kind !== 'change') {
      lines.push(entry);
      continue;
    }
    const { change, at, on, id, currency } = entry;
    const last = lines.at(-1);
    if (last?.kind === 'changes' && belongTogether(last.changes[0], change)) last.changes.unshift(change);
    else lines.push({ kind: 'changes', at, id, changes: [change], on, currency });
  }
  return lines;
}

/** Lines of changes in a row beyond which the rest is folded away. */
const LONG = 5;
/** Lines of a long run that are shown. */
const SHOWN = 2;

/** Folds long runs of changes that nothing else interrupts, save those opened; they are named by their first line. */
export function foldRuns(lines: readonly Line[], opened: ReadonlySet<number>): Line[] {
  const folded: Line[] = [];
  for (let at = 0; at < lines.length;) {
    let end = at;
    while (end < lines.length && lines[end].kind === 'changes') end += 1;
    const run = lines.slice(at, end);
    if (run.length > LONG && !opened.has(run[0].id)) {
      folded.push(...run.slice(0, SHOWN));
      folded.push({ kind: 'run', at: run[SHOWN].at, id: run[0].id, hidden: run.length - SHOWN });
    } else folded.push(...run);
    if (end < lines.length) folded.push(lines[end]);
    at = end + 1;
  }
  return folded;
}
