import { IsNull } from 'typeorm';
import { type AnyRecord } from '@zawn/core';
import { invalidInput } from '../../platform/http/problem';
import { type RecordHooks } from '../../kernel/records/record-hooks';

/** What writing a target means: it is one person's, or one team's, or the organisation's, and one a quarter. */
export const targetHooks: RecordHooks = {
  object: 'target',
  async beforeWrite(unit, next, before) {
    const { owner = null, team = null, startsOn } = { ...before, ...next };
    if (owner !== null && team !== null)
      throw invalidInput([{ field: 'team', message: 'Team: a target is one person’s or one team’s' }]);
    if (unit.undoes !== undefined) return;
    const same = await unit.manager.findOneBy<AnyRecord>('target', {
      owner: (owner as number | null) ?? IsNull(),
      team: (team as number | null) ?? IsNull(),
      startsOn: String(startsOn),
      deletedAt: IsNull(),
    });
    if (same && same.id !== before?.id)
      throw invalidInput([{ field: 'startsOn', message: 'Quarter from: there is a target for it already' }]);
  },
};
