import { allOf, type Condition, type FigureRow, type Measure, type Question } from '@zawn/core';

/** Open value of one owner in one stage, in minor units of the reporting currency. */
export interface Segment {
  stage: number;
  owner: number;
  count: number;
  value: number;
  weighted: number;
}

const measures: Measure[] = [{ as: 'count' }, { as: 'sum', of: 'value' }, { as: 'sum', of: 'weighted' }];
const OPEN: Condition = { field: 'outcome', is: 'anyOf', value: ['open'] };
const oneOf = (field: string, id: number): Condition => ({ field, is: 'anyOf', value: [id] });

/** Open deals by stage and owner. */
export const pipelineQuestion = (whose: Condition | undefined): Question => ({
  version: 1,
  object: 'deal',
  where: allOf(OPEN, whose),
  groups: [{ field: 'stage' }, { field: 'owner' }],
  measures,
});

/** The question behind one segment, or a whole stage or owner when the other is left out. */
export const segmentQuestion = (whose: Condition | undefined, stage?: number, owner?: number): Question => ({
  version: 1,
  object: 'deal',
  where: allOf(
    OPEN,
    stage === undefined ? undefined : oneOf('stage', stage),
    owner === undefined ? whose : oneOf('owner', owner),
  ),
});

/** The rows of the pipeline question as segments. */
export function segmentsOf(rows: readonly FigureRow[]): Segment[] {
  return rows.map(({ keys: [stage, owner], figures: [count, value, weighted] }) => ({
    stage: Number(stage),
    owner: Number(owner),
    count: count ?? 0,
    value: value ?? 0,
    weighted: weighted ?? 0,
  }));
}

export interface Total {
  count: number;
  value: number;
  weighted: number;
}

/** Sums segments. */
export function totalOf(segments: readonly Segment[]): Total {
  const total = { count: 0, value: 0, weighted: 0 };
  for (const { count, value, weighted } of segments) {
    total.count += count;
    total.value += value;
    total.weighted += weighted;
  }
  return total;
}
