import { type RecordHooks } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';
import { openDealsOf } from './deal-derivation';
import { ACCOUNT, guidesInUse } from '../guides/guides';

/** The fields of an account that guides ask about, read once for a unit that writes many. */
const asked = new WeakMap<Unit, Promise<ReadonlySet<string>>>();

async function fieldsAsked(unit: Unit): Promise<ReadonlySet<string>> {
  const guides = await guidesInUse(unit.manager);
  const items = [...guides.values()].flatMap((guide) => guide.items);
  return new Set(
    items.flatMap(({ field }) => (field?.startsWith(ACCOUNT) ? [field.slice(ACCOUNT.length)] : [])),
  );
}

/** What writing an account means to the guides of its deals: how far they are may depend on it. */
export const guidedAccountHooks: RecordHooks = {
  object: 'account',
  async afterWrite(unit, account, before) {
    // A new one has no deals yet.
    if (!before) return;
    let fields = asked.get(unit);
    if (!fields) asked.set(unit, (fields = fieldsAsked(unit)));
    const isAsked = [...(await fields)].some((field) => account[field] !== before[field]);
    if (!isAsked) return;
    for (const deal of await openDealsOf(unit.manager, account.id)) unit.affected.note('deal', deal);
  },
};
