import { type Question, type Selection } from '@zawn/core';

/** Which rows are marked: some by id, or all that answer the question but for some. */
export type Marks = { all: false; ids: ReadonlySet<number> } | { all: true; except: ReadonlySet<number> };

export const noMarks: Marks = { all: false, ids: new Set() };
export const allMarked: Marks = { all: true, except: new Set() };

export const isMarked = (marks: Marks, id: number): boolean =>
  marks.all ? !marks.except.has(id) : marks.ids.has(id);

/** How many rows are marked, of so many that answer the question. */
export const markedCount = (marks: Marks, total: number): number =>
  marks.all ? Math.max(0, total - marks.except.size) : marks.ids.size;

/** Marks rows, or takes their marks away; the others stay as they are. */
export function marking(marks: Marks, ids: readonly number[], mark: boolean): Marks {
  const named = new Set(marks.all ? marks.except : marks.ids);
  for (const id of ids) {
    if (mark === marks.all) named.delete(id);
    else named.add(id);
  }
  return marks.all ? { all: true, except: named } : { all: false, ids: named };
}

/** What the server is told of the marks. */
export const selectionOf = (marks: Marks, question: Question): Selection =>
  marks.all ? { question, except: [...marks.except] } : { ids: [...marks.ids] };
