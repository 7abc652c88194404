import { invalidInput } from '../../platform/http/problem';
import { type Meaning } from '../../kernel/records/meaning';

/** Accounts above an account that are looked at; deeper groups are taken for a mistake. */
const DEEPEST = 50;

/** What writing an account means: no account stands above itself. */
export const accountMeaning: Meaning = {
  object: 'account',
  async prepare(unit, next, before) {
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
