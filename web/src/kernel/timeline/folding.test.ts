import { type LoggedChange, type TimelineEntry } from '@zawn/core';
import { fold, foldRuns } from './folding';

const change = (id: number, at: string, more: Partial<LoggedChange> = {}): TimelineEntry => ({
  kind: 'change',
  id,
  at,
  on: null,
  currency: null,
  change: {
    id,
    unit: id,
    at,
    person: 1,
    through: 'hand',
    object: 'deal',
    record: 1,
    kind: 'changed',
    field: 'closeOn',
    old: null,
    new: null,
    ...more,
  },
});
const note = (id: number, at: string) =>
  ({ kind: 'note', id, at, record: { id } }) as unknown as TimelineEntry;
const shape = (lines: ReturnType<typeof fold>) =>
  lines.map((line) => (line.kind === 'run' ? `${line.hidden} more` : `${line.kind} ${line.id}`));

describe('folding changes', () => {
  it('makes one line of what one write did to one record, in the order it was written', () => {
    const lines = fold([change(3, 'b'), change(2, 'a', { field: 'value' }), change(1, 'a')]);
    expect(shape(lines)).toEqual(['changes 3', 'changes 2']);
    expect(lines[1].kind === 'changes' && lines[1].changes.map(({ id }) => id)).toEqual([1, 2]);
  });

  it('keeps records apart, and what was created from what was changed', () => {
    const lines = fold([
      change(3, 'a'),
      change(2, 'a', { record: 2 }),
      change(1, 'a', { record: 2, kind: 'created' }),
    ]);
    expect(shape(lines)).toEqual(['changes 3', 'changes 2', 'changes 1']);
  });

  it('folds a long run away until it is opened, and never what was said or done', () => {
    const entries = [
      note(100, 'z'),
      ...Array.from({ length: 8 }, (_, at) => change(50 - at, `m${9 - at}`)),
      note(10, 'b'),
      change(9, 'a'),
    ];
    const lines = fold(entries);
    expect(shape(foldRuns(lines, new Set()))).toEqual([
      'note 100',
      'changes 50',
      'changes 49',
      '6 more',
      'note 10',
      'changes 9',
    ]);
    expect(foldRuns(lines, new Set([50]))).toEqual(lines);
  });

  it('leaves short runs as they are', () => {
    const lines = fold(Array.from({ length: 5 }, (_, at) => change(50 - at, `m${9 - at}`)));
    expect(foldRuns(lines, new Set())).toEqual(lines);
  });
});
