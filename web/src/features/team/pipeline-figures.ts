import { allOf, type Condition, type Question, type ReportDesign, type ReportRow } from '@zawn/core';

/** Open value of one owner in one stage, in minor units of the reporting currency. */
export interface Segment {
  stage: number;
  owner: number;
  count: number;
  value: number;
  weighted: number;
}

const OPEN: Condition = { field: 'outcome', is: 'anyOf', value: ['open'] };
const oneOf = (field: string, id: number): Condition => ({ field, is: 'anyOf', value: [id] });

/** Open deals by stage and owner, as a report. */
export const pipelineReport = (whose: Condition | undefined): ReportDesign => ({
  version: 1,
  question: {
    version: 1,
    object: 'deal',
    where: allOf(OPEN, whose),
    groups: [{ field: 'stage' }, { field: 'owner' }],
  },
  figures: [
    { key: 'deals', measure: { as: 'count' }, label: 'Deals' },
    { key: 'value', measure: { as: 'sum', of: 'value' }, label: 'Value' },
    { key: 'weighted', measure: { as: 'sum', of: 'weighted' }, label: 'Weighted' },
  ],
  draw: 'stacked',
  drawn: 'value',
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

export interface Total {
  count: number;
  value: number;
  weighted: number;
}

/** What a row of the report comes to. */
export const totalIn = ([count, value, weighted]: ReportRow['figures']): Total => ({
  count: count ?? 0,
  value: value ?? 0,
  weighted: weighted ?? 0,
});

/** The innermost rows of the report as segments. */
export function segmentsOf(rows: readonly ReportRow[]): Segment[] {
  return rows
    .filter(({ keys }) => keys.length === 2)
    .map(({ keys: [stage, owner], figures }) => ({
      stage: Number(stage),
      owner: Number(owner),
      ...totalIn(figures),
    }));
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
