import { checkDashboard } from '@zawn/core/validation';
import { checkedJson } from '../../kernel/records/checked-json';
import { type RecordHooks } from '../../kernel/records/record-hooks';
import { completeSharing, completeTeams } from '../../kernel/views/view-hooks';

export const dashboardHooks: RecordHooks = {
  object: 'dashboard',

  /** Keeps nothing that is not a dashboard whose tiles can be asked. */
  async beforeWrite(unit, next, before) {
    completeSharing(unit, next, before);
    await completeTeams(unit, next, before);
    if (next.design === undefined) return;
    const check = (raw: unknown) => checkDashboard(raw, unit.catalogue);
    next.design = checkedJson(next.design, 'design', 'The tiles', check).text;
  },
};
