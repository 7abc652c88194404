import { fieldOf, questionsMet } from '@zawn/core';
import { invalidInput, Problem } from '../../platform/http/problem';
import { type RecordHooks } from '../../kernel/records/record-hooks';
import { type Through } from '../../kernel/records/unit';
import { mustBeDone } from '../guides/guides';

/** Said when a lead is let go, and no longer true once it is taken up again. */
const LET_GO = ['disqualifiedAt', 'disqualifyReason', 'disqualifyComment', 'lookAgainOn'];

/** Ways that may still write a converted lead: what it became may be merged into another record. */
const BY_FEATURE: readonly Through[] = ['conversion', 'merge', 'undo'];

/** Ways in which a lead goes on no further than it was. */
const GOES_BACK: readonly Through[] = ['merge', 'undo'];

/** What writing a lead means: only conversion makes one *converted*, and a converted one is read-only. */
export const leadHooks: RecordHooks = {
  object: 'lead',
  async beforeWrite(unit, next, before) {
    const byFeature = BY_FEATURE.includes(unit.through);
    if (before?.convertedAt && !byFeature) {
      throw new Problem(
        'conflict',
        'This lead has been converted and is read-only. Work on its contact and deal.',
      );
    }
    if (next.status === 'converted' && !byFeature) {
      throw invalidInput([{ field: 'status', message: 'A lead becomes converted by converting it' }]);
    }
    if (next.status !== undefined && next.status !== before?.status) {
      // Two leads that are made one were that far before; an undo brings back what was.
      if (before && !GOES_BACK.includes(unit.through)) await mustBeDone(unit, 'lead', before, next);
      const statuses = fieldOf(unit.catalogue, 'lead', 'status')?.choices ?? [];
      const isLetGo = statuses.find(({ key }) => key === next.status)?.kind === 'disqualified';
      if (isLetGo) next.disqualifiedAt ??= unit.at;
      else if (before) for (const key of LET_GO) if (before[key] !== null) next[key] ??= null;
    }
    const met = questionsMet(next, before);
    if (before?.questionsMet !== met) next.questionsMet = met;
    if (!before) next.score = 0;
  },
};
