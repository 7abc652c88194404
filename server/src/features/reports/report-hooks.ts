import { type ObjectKey } from '@zawn/core';
import { checkReport } from '@zawn/core/validation';
import { checkedJson } from '../../kernel/records/checked-json';
import { type RecordHooks } from '../../kernel/records/record-hooks';
import { completeSharing, completeTeams } from '../../kernel/views/view-hooks';
import { invalidInput } from '../../platform/http/problem';

export const reportHooks: RecordHooks = {
  object: 'report',

  /** Keeps nothing that is not a report of its own object. */
  async beforeWrite(unit, next, before) {
    completeSharing(unit, next, before);
    await completeTeams(unit, next, before);
    if (next.design === undefined) return;
    const object = (before?.object ?? next.object) as ObjectKey;
    const check = (raw: unknown) => checkReport(raw, unit.catalogue);
    const { text, value } = checkedJson(next.design, 'design', 'The report', check);
    if (value.question.object !== object)
      throw invalidInput([{ field: 'design', message: 'A report must ask for what it is of' }]);
    next.design = text;
  },
};
