import { useQuery } from '@tanstack/react-query';
import {
  ask,
  completeQuestion,
  isObjectKey,
  readyReports,
  reportDesignOf,
  type ReadyReport,
  type Report,
  type ReportDesign,
} from '@zawn/core';
import { useCallback, useMemo } from 'react';
import { useParams, useSearchParams } from 'react-router';
import { DESIGN } from '../../kernel/questions/list-address';
import { useSession } from '../../platform/sessions/session';
import { keptReports } from './report-queries';

/** What a page shows before anything was changed on it. */
export type ReportBase =
  | { kind: 'kept'; report: Report; design: ReportDesign }
  | { kind: 'ready'; ready: ReadyReport; design: ReportDesign }
  | { kind: 'new'; design: ReportDesign }
  | { kind: 'gone' };

export interface ShownReport {
  base: ReportBase;
  /** What is on the screen, its unfinished conditions included. */
  design: ReportDesign;
  /** The same without them: what is asked and kept. */
  asked: ReportDesign;
  isChanged: boolean;
  change: (design: ReportDesign) => void;
  reset: () => void;
  isLoading: boolean;
}

/** What a new report begins with: how many there are, of deals unless the address says otherwise. */
export function plainReport(object: string | null): ReportDesign {
  return {
    version: 1,
    question: { ...ask(object !== null && isObjectKey(object) ? object : 'deal'), groups: [] },
    figures: [{ key: 'a', measure: { as: 'count' } }],
    draw: 'columns',
  };
}

function designIn(text: string | null): ReportDesign | undefined {
  if (text === null) return undefined;
  try {
    const design = JSON.parse(text) as ReportDesign;
    return Array.isArray(design.figures) && isObjectKey(design.question.object) ? design : undefined;
  } catch {
    return undefined;
  }
}

/** The report a page shows, as its address says it, and what was changed on it. */
export function useReport(): ShownReport {
  const { key = 'new' } = useParams();
  const [parameters, setParameters] = useSearchParams();
  const { catalogue } = useSession();
  const { data: kept, isPending } = useQuery(keptReports);
  const [changed, of] = [parameters.get(DESIGN), parameters.get('of')];
  const base = useMemo<ReportBase>(() => {
    if (key === 'new') return { kind: 'new', design: plainReport(of) };
    const ready = readyReports.find((each) => each.key === key);
    if (ready) return { kind: 'ready', ready, design: ready.design };
    const report = kept?.find(({ id }) => id === Number(key));
    const design = report && reportDesignOf(report);
    return report && design ? { kind: 'kept', report, design } : { kind: 'gone' };
  }, [key, kept, of]);
  const before = base.kind === 'gone' ? undefined : base.design;
  const design = useMemo(() => designIn(changed) ?? before ?? plainReport(null), [changed, before]);
  const asked = useMemo(
    () => ({ ...design, question: completeQuestion(catalogue, design.question) }),
    [catalogue, design],
  );
  const change = useCallback(
    (next: ReportDesign) =>
      setParameters((all) => {
        if (JSON.stringify(next) === JSON.stringify(before)) all.delete(DESIGN);
        else all.set(DESIGN, JSON.stringify(next));
        return all;
      }),
    [setParameters, before],
  );
  const reset = useCallback(
    () =>
      setParameters((all) => {
        all.delete(DESIGN);
        return all;
      }),
    [setParameters],
  );
  const isChanged = base.kind === 'new' || JSON.stringify(design) !== JSON.stringify(before);
  return { base, design, asked, isChanged, change, reset, isLoading: isPending };
}
