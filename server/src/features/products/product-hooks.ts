import { IsNull } from 'typeorm';
import { type AnyRecord } from '@zawn/core';
import { invalidInput } from '../../platform/http/problem';
import { type RecordHooks } from '../../kernel/records/record-hooks';

const folded = (code: unknown) => String(code).trim().toLowerCase();

/** What writing a product means: it has a code of its own. */
export const productHooks: RecordHooks = {
  object: 'product',
  async beforeWrite(unit, next, before) {
    if (unit.undoes !== undefined || typeof next.code !== 'string') return;
    const all = await unit.manager.findBy<AnyRecord>('product', { deletedAt: IsNull() });
    const other = all.find(({ id, code }) => id !== before?.id && folded(code) === folded(next.code));
    if (other) throw invalidInput([{ field: 'code', message: `Code: ${String(other.name)} has it already` }]);
  },
};
