import { type FieldValue, type FigureRow } from '@zawn/core';

/** The head of a group of rows, with its figures: the count first. */
export interface GroupLine {
  kind: 'group';
  level: 0 | 1;
  keys: readonly FieldValue[];
  figures: readonly (number | null)[];
  name: string;
  isFolded: boolean;
}

/** A record, by its place among all that answer the question. */
export interface RecordLine {
  kind: 'record';
  at: number;
}

export type Line = GroupLine | RecordLine;

/** A run of lines: a head, or the records under one. */
type Run = { first: number; head: GroupLine } | { first: number; record: number; count: number };

/** What a group is known by while it is folded and unfolded. */
export const groupName = (keys: readonly FieldValue[]): string => JSON.stringify(keys);

/**
 * The lines of a table: every record, and above each group its head. However many there are, a line is found
 * without laying out those before it.
 */
export class Lines {
  private readonly runs: Run[] = [];
  readonly length: number;

  /**
   * @param outer a row of figures a group, in the order of the records; none when they are not grouped.
   * @param inner a row of figures a group within a group.
   * @param folded names of the groups whose records are not shown.
   */
  constructor(
    total: number,
    outer: readonly FigureRow[] | undefined,
    inner: readonly FigureRow[] | undefined,
    folded: ReadonlySet<string>,
  ) {
    let first = 0;
    let record = 0;
    const addHead = (row: FigureRow, level: 0 | 1) => {
      const name = groupName(row.keys);
      const head: GroupLine = {
        kind: 'group',
        level,
        keys: row.keys,
        figures: row.figures,
        name,
        isFolded: folded.has(name),
      };
      this.runs.push({ first, head });
      first += 1;
      return head;
    };
    const addRecords = (count: number, isFolded: boolean) => {
      if (!isFolded && count > 0) {
        this.runs.push({ first, record, count });
        first += count;
      }
      record += count;
    };
    if (!outer) addRecords(total, false);
    const within = new Map<string, FigureRow[]>();
    for (const row of inner ?? []) {
      const name = JSON.stringify(row.keys[0]);
      within.set(name, [...(within.get(name) ?? []), row]);
    }
    for (const row of outer ?? []) {
      const { isFolded } = addHead(row, 0);
      const parts = within.get(JSON.stringify(row.keys[0])) ?? [];
      // A record can stand in several parts of its group, and then has a row in each.
      const count = (part: FigureRow) => part.figures[0] ?? 0;
      if (!inner) addRecords(count(row), isFolded);
      else if (isFolded)
        addRecords(
          parts.reduce((sum, part) => sum + count(part), 0),
          true,
        );
      else for (const part of parts) addRecords(count(part), addHead(part, 1).isFolded);
    }
    this.length = first;
  }

  /** The line at a place; undefined beyond the end. */
  at(index: number): Line | undefined {
    if (index < 0 || index >= this.length) return undefined;
    let low = 0;
    let high = this.runs.length - 1;
    while (low < high) {
      const middle = Math.ceil((low + high) / 2);
      if (this.runs[middle].first <= index) low = middle;
      else high = middle - 1;
    }
    const run = this.runs[low];
    return 'head' in run ? run.head : { kind: 'record', at: run.record + index - run.first };
  }

  /** The place of the line of a record; −1 while its group is folded. */
  lineOf(record: number): number {
    for (const run of this.runs)
      if ('record' in run && record >= run.record && record < run.record + run.count)
        return run.first + record - run.record;
    return -1;
  }

  /** The places of the records between two lines, both included, in either order; those of folded groups are not. */
  recordsBetween(one: number, other: number): number[] {
    const places: number[] = [];
    for (let index = Math.min(one, other); index <= Math.max(one, other); index += 1) {
      const line = this.at(index);
      if (line?.kind === 'record') places.push(line.at);
    }
    return places;
  }

  /** The next line that is a record, from a place on in a direction; the place itself when there is none. */
  nextRecord(from: number, step: 1 | -1): number {
    for (let index = from + step; index >= 0 && index < this.length; index += step)
      if (this.at(index)?.kind === 'record') return index;
    return from;
  }
}
