import { IsNull } from 'typeorm';
import { Problem } from '../../platform/http/problem';
import { type RecordHooks } from '../../kernel/records/record-hooks';

/** What it means that somebody has a part in a deal: one part each. */
export const dealContactHooks: RecordHooks = {
  object: 'dealContact',
  async beforeWrite(unit, next, before) {
    // What nobody has said is not known.
    if (!before || 'stance' in next) next.stance ??= 'unknown';
    if (before) return;
    const same = { deal: Number(next.deal), contact: Number(next.contact), deletedAt: IsNull() };
    if (unit.undoes === undefined && (await unit.manager.countBy('dealContact', same)) > 0)
      throw new Problem('conflict', 'They have a part in this deal already. Change it there.');
  },
  async afterWrite(unit, part, before) {
    if (before) return;
    const [contact, deal] = await Promise.all([
      unit.find('contact', Number(part.contact)),
      unit.find('deal', Number(part.deal)),
    ]);
    unit.label ||= `“${String(contact.name)}” has a part in “${String(deal.name)}”`;
  },
};
