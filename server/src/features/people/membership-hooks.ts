import { IsNull } from 'typeorm';
import { Problem } from '../../platform/http/problem';
import { type RecordHooks } from '../../kernel/records/record-hooks';

/** What it means that a contact belongs to another account too: not to the main one again, and to each once. */
export const membershipHooks: RecordHooks = {
  object: 'membership',
  async beforeWrite(unit, next, before) {
    if (before) return;
    const { contact, account } = next;
    const person = await unit.find('contact', Number(contact)).catch(() => undefined);
    const isMain = person !== undefined && person.account === account;
    const same = { contact: Number(contact), account: Number(account), deletedAt: IsNull() };
    if (isMain || (await unit.manager.countBy('membership', same)) > 0)
      throw new Problem(
        'conflict',
        `${String(person?.name ?? 'The contact')} belongs to this account already.`,
      );
  },
  async afterWrite(unit, membership, before) {
    if (before) return;
    const [contact, account] = await Promise.all([
      unit.find('contact', Number(membership.contact)),
      unit.find('account', Number(membership.account)),
    ]);
    unit.label ||= `“${String(contact.name)}” belongs to “${String(account.name)}” too`;
  },
};
