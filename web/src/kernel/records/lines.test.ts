import { type FigureRow } from '@zawn/core';
import { groupName, Lines, type Line } from './lines';

const row = (keys: string[], count: number): FigureRow => ({ keys, figures: [count, count * 10] });
const outer = [row(['a'], 2), row(['b'], 3)];
const inner = [row(['a', 'x'], 2), row(['b', 'x'], 1), row(['b', 'y'], 2)];
const said = (line: Line | undefined) =>
  line === undefined ? undefined : line.kind === 'record' ? line.at : line.keys.join('/');
const all = (lines: Lines) => Array.from({ length: lines.length }, (_, index) => said(lines.at(index)));

describe('the lines of a table', () => {
  it('are the records when nothing is grouped, however many', () => {
    const lines = new Lines(100_000, undefined, undefined, new Set());
    expect(lines.length).toBe(100_000);
    expect(said(lines.at(99_999))).toBe(99_999);
    expect(lines.at(100_000)).toBeUndefined();
    expect(lines.lineOf(70_000)).toBe(70_000);
  });

  it('have a head above each group, and above each group within a group', () => {
    expect(all(new Lines(5, outer, undefined, new Set()))).toEqual(['a', 0, 1, 'b', 2, 3, 4]);
    expect(all(new Lines(5, outer, inner, new Set()))).toEqual([
      'a',
      'a/x',
      0,
      1,
      'b',
      'b/x',
      2,
      'b/y',
      3,
      4,
    ]);
  });

  it('give a record that is in several parts of its group a row in each', () => {
    const tags = [row(['a', 'ferry'], 2), row(['a', 'radar'], 1), row(['b', 'radar'], 3)];
    expect(all(new Lines(5, outer, tags, new Set()))).toEqual([
      'a',
      'a/ferry',
      0,
      1,
      'a/radar',
      2,
      'b',
      'b/radar',
      3,
      4,
      5,
    ]);
    // Those of a folded group keep all their places.
    expect(all(new Lines(5, outer, tags, new Set([groupName(['a'])])))).toEqual([
      'a',
      'b',
      'b/radar',
      3,
      4,
      5,
    ]);
  });

  it('leave out the records of a folded group and keep the places of the others', () => {
    const lines = new Lines(5, outer, inner, new Set([groupName(['a']), groupName(['b', 'x'])]));
    expect(all(lines)).toEqual(['a', 'b', 'b/x', 'b/y', 3, 4]);
    expect(lines.lineOf(0)).toBe(-1);
    expect(lines.lineOf(3)).toBe(4);
  });

  it('hold the records between two of them, in either direction', () => {
    const lines = new Lines(5, outer, inner, new Set([groupName(['b', 'x'])]));
    expect(lines.recordsBetween(3, 8)).toEqual([1, 3, 4]);
    expect(lines.recordsBetween(8, 3)).toEqual([1, 3, 4]);
    expect(lines.recordsBetween(2, 2)).toEqual([0]);
    expect(lines.recordsBetween(0, 1)).toEqual([]);
  });

  it('are walked through from record to record', () => {
    const lines = new Lines(5, outer, undefined, new Set());
    expect(lines.nextRecord(-1, 1)).toBe(1);
    expect(lines.nextRecord(2, 1)).toBe(4);
    expect(lines.nextRecord(4, -1)).toBe(2);
    expect(lines.nextRecord(6, 1)).toBe(6);
  });
});
