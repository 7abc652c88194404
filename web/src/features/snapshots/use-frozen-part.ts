import { catalogueThen, knownReport, type FrozenAnswer, type Names, type ReportDesign } from '@zawn/core';
import { useMemo } from 'react';
import { type LabelContext } from '../../kernel/drawings/key-label';
import { useWording } from '../../kernel/questions/use-wording';
import { useSession } from '../../platform/sessions/session';

const NO_NAMES: Names = {};

/** What tells how the figures of a snapshot are called: as it was then. */
export function useFrozenPart(
  frozen: FrozenAnswer | undefined,
): { design: ReportDesign; wording: LabelContext['wording']; labels: LabelContext } | undefined {
  const { catalogue: now } = useSession();
  const names = frozen?.answer?.names ?? NO_NAMES;
  const wordingNow = useWording(names);
  return useMemo(() => {
    if (!frozen) return undefined;
    const catalogue = catalogueThen(frozen, now);
    const wording = {
      ...wordingNow,
      catalogue,
      nameOf: (object: Parameters<typeof wordingNow.nameOf>[0], id: number) =>
        names[object]?.[id] ?? wordingNow.nameOf(object, id),
    };
    const { calendar, reportingCurrency } = frozen.moment;
    return {
      design: knownReport(frozen.design, catalogue).design,
      wording,
      labels: { catalogue, calendar, wording, names, currency: reportingCurrency },
    };
  }, [frozen, now, wordingNow, names]);
}
