import { invalidInput } from '../../platform/http/problem';
import { type RecordHooks } from '../../kernel/records/record-hooks';

/** Accounts above an account that are looked at; deeper groups are taken for a mistake. */
const DEEPEST = 50;

/** What writing an account means: no account stands above itself. */
export const accountHooks: RecordHooks = {
  object: 'account',
  async beforeWrite(unit, next, before) {
    if (!before || typeof next.parent !== 'number' || next.parent === before.parent) return;
    let above: number | null = next.parent;
    for (let depth = 0; above !== null && depth < DEEPEST; depth += 1) {
      if (above === before.id)
        throw invalidInput([
          { field: 'parent', message: `Parent account: ${String(before.name)} would stand above itself` },
        ]);
      const row: { parent: number | null } | null = await unit.manager.findOneBy<{
        id: number;
        parent: number | null;
      }>('account', { id: above });
      above = row?.parent ?? null;
    }
  },
};
