import { invalidInput, Problem } from '../http/problem';
import { type Meaning } from '../records/meaning';

/** What writing a lead means: only conversion makes one *converted*, and a converted one is read-only. */
export const leadMeaning: Meaning = {
  object: 'lead',
  prepare(unit, next, before) {
    const byFeature = unit.through === 'conversion' || unit.through === 'undo';
    if (before?.convertedAt && !byFeature) {
      throw new Problem(
        'conflict',
        'This lead has been converted and is read-only. Work on its contact and deal.',
      );
    }
    if (next.status === 'converted' && !byFeature) {
      throw invalidInput([{ field: 'status', message: 'A lead becomes converted by converting it' }]);
    }
    return Promise.resolve();
  },
};
