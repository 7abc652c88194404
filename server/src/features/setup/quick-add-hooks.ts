import Joi from 'joi';
import { IsNull } from 'typeorm';
import { fieldOf, type ObjectKey } from '@zawn/core';
import { checkAgainst } from '@zawn/core/validation';
import { invalidInput, Problem } from '../../platform/http/problem';
import { checkedJson } from '../../kernel/records/checked-json';
import { type RecordHooks } from '../../kernel/records/record-hooks';

const MOST = 20;
const keys = Joi.array<string[]>()
  .items(Joi.string().max(60))
  .min(1)
  .max(MOST)
  .unique()
  .required()
  .label('Fields')
  .messages({
    'array.min': 'Fields: choose one at least',
    'array.max': `Fields: ${MOST} at most, so that it stays a short form`,
  });

/** What it means to say what the short form for a new record asks for: fields that can be filled in, said once. */
export const quickAddHooks: RecordHooks = {
  object: 'quickAdd',
  async beforeWrite({ catalogue, manager }, next, before) {
    const object = String(before?.object ?? next.object) as ObjectKey;
    if (next.fields !== undefined) {
      const { text, value } = checkedJson(next.fields, 'fields', 'Fields', (raw) => checkAgainst(keys, raw));
      for (const key of value) {
        const { set = 'edit' } = fieldOf(catalogue, object, key) ?? { set: 'computed' as const };
        if (set !== 'edit' && set !== 'once')
          throw invalidInput([{ field: 'fields', message: `Fields: “${key}” cannot be filled in by hand` }]);
      }
      next.fields = text;
    }
    if (!before && (await manager.countBy('quickAdd', { object, deletedAt: IsNull() })) > 0)
      throw new Problem('conflict', 'There is a short form for these already. Change that one.');
  },
};
