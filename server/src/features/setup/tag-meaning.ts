import { IsNull } from 'typeorm';
import { Problem } from '../../platform/http/problem';
import { type Meaning } from '../../kernel/records/meaning';

/** What setting a tag up means: there is one of each name. */
export const tagMeaning: Meaning = {
  object: 'tag',
  async prepare({ manager }, next, before) {
    if (next.name === undefined || next.name === before?.name) return;
    if ((await manager.countBy('tag', { name: String(next.name), deletedAt: IsNull() })) > 0)
      throw new Problem('conflict', `There is a tag “${String(next.name)}” already.`);
  },
};
