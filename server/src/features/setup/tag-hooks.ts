import { IsNull } from 'typeorm';
import { Problem } from '../../platform/http/problem';
import { type RecordHooks } from '../../kernel/records/record-hooks';

/** What setting a tag up means: there is one of each name. */
export const tagHooks: RecordHooks = {
  object: 'tag',
  async beforeWrite({ manager }, next, before) {
    if (next.name === undefined || next.name === before?.name) return;
    if ((await manager.countBy('tag', { name: String(next.name), deletedAt: IsNull() })) > 0)
      throw new Problem('conflict', `There is a tag “${String(next.name)}” already.`);
  },
};
