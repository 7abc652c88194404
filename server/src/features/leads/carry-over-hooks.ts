import { IsNull } from 'typeorm';
import { carriedFields, conversionParts, fieldOf, mayCarry, objectType } from '@zawn/core';
import { invalidInput, Problem } from '../../platform/http/problem';
import { type RecordHooks } from '../../kernel/records/record-hooks';

/** What it means to say where a lead's field goes: the fields are there, hold the same, and it is said once. */
export const carryOverHooks: RecordHooks = {
  object: 'carryOver',
  async beforeWrite({ catalogue, manager }, next, before) {
    const key = String(before?.field ?? next.field);
    const from = carriedFields(catalogue).find(([name]) => name === key)?.[1];
    if (!from)
      throw invalidInput([{ field: 'field', message: `A lead has no field “${key}” to carry over` }]);
    for (const part of conversionParts) {
      const to = next[part];
      if (typeof to !== 'string') continue;
      const field = fieldOf(catalogue, part, to);
      const label = objectType(part).label.toLowerCase();
      if (!field) throw invalidInput([{ field: part, message: `The ${label} has no field “${to}”` }]);
      if (!mayCarry(from, field))
        throw invalidInput([
          { field: part, message: `${field.label} of the ${label} cannot hold what ${from.label} holds` },
        ]);
    }
    if (!before && (await manager.countBy('carryOver', { field: key, deletedAt: IsNull() })) > 0)
      throw new Problem('conflict', `It is said already where ${from.label} goes. Change that instead.`);
  },
};
