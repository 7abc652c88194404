import fc from 'fast-check';
import { ask } from '@zawn/core';
import { allMarked, isMarked, markedCount, marking, noMarks, selectionOf } from './marks';

describe('marking rows', () => {
  it('counts all that match, beyond the page, less those taken out', () => {
    const marks = marking(allMarked, [3, 4], false);
    expect(markedCount(marks, 1000)).toBe(998);
    expect([isMarked(marks, 3), isMarked(marks, 5)]).toEqual([false, true]);
    expect(selectionOf(marks, ask('lead'))).toEqual({ question: ask('lead'), except: [3, 4] });
  });

  it('names the rows when only some are marked', () => {
    expect(selectionOf(marking(noMarks, [2, 1], true), ask('lead'))).toEqual({ ids: [2, 1] });
  });

  it('marks what it is told to mark and nothing else, whatever was marked before', () => {
    const ids = fc.uniqueArray(fc.integer({ min: 1, max: 30 }));
    fc.assert(
      fc.property(fc.boolean(), ids, ids, fc.boolean(), (all, before, changed, mark) => {
        const start = marking(all ? allMarked : noMarks, before, !all);
        const after = marking(start, changed, mark);
        for (let id = 1; id <= 30; id += 1)
          expect(isMarked(after, id)).toBe(changed.includes(id) ? mark : isMarked(start, id));
      }),
    );
  });
});
