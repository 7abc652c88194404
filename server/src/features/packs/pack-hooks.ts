import { checkPack } from '@zawn/core/validation';
import { checkedJson } from '../../kernel/records/checked-json';
import { type RecordHooks } from '../../kernel/records/record-hooks';
import { refuseCircle } from '../../kernel/records/refuse-circle';
import { completeSharing, completeTeams } from '../../kernel/views/view-hooks';

export const packHooks: RecordHooks = {
  object: 'pack',

  /** Keeps nothing that is not a pack whose pages can be asked. */
  async beforeWrite(unit, next, before) {
    completeSharing(unit, next, before);
    await completeTeams(unit, next, before);
    await refuseCircle(unit, 'pack', 'previous', next, before);
    if (next.design === undefined) return;
    const check = (raw: unknown) => checkPack(raw, unit.catalogue);
    next.design = checkedJson(next.design, 'design', 'The pages', check).text;
  },
};
