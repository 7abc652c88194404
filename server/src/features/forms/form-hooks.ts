import { IsNull } from 'typeorm';
import { checkForm } from '@zawn/core/validation';
import { invalidInput } from '../../platform/http/problem';
import { checkedJson } from '../../kernel/records/checked-json';
import { type RecordHooks, type Values } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';

const SLUG = /^[a-z0-9]+(-[a-z0-9]+)*$/;

/** Refuses what goes to one person without saying to whom. */
export function checkRecipient({ to, person }: Values): void {
  if (to === 'person' && typeof person !== 'number')
    throw invalidInput([{ field: 'person', message: 'Who gets the leads is missing' }]);
}

/** Refuses a text that another record of the same kind has already. */
export async function checkAlone(
  unit: Unit,
  object: 'form' | 'captureAddress',
  field: string,
  next: Values,
  id?: number,
) {
  const others = await unit.manager.findBy<{ id: number; name: string; deletedAt: string | null }>(object, {
    [field]: next[field],
    deletedAt: IsNull(),
  });
  const other = others.find((each) => each.id !== id);
  if (other) throw invalidInput([{ field, message: `“${String(next[field])}” is taken by “${other.name}”` }]);
}

/** What writing a web form means: it can be published at its address and asks for what a lead has. */
export const formHooks: RecordHooks = {
  object: 'form',
  async beforeWrite(unit, next, before) {
    if (next.design !== undefined) {
      const check = (raw: unknown) => checkForm(raw, unit.catalogue);
      next.design = checkedJson(next.design, 'design', 'The design of a form', check).text;
    }
    checkRecipient({ ...before, ...next });
    if (next.slug === undefined) return;
    if (!SLUG.test(String(next.slug)))
      throw invalidInput([
        {
          field: 'slug',
          message: 'Address: small letters and digits with single dashes, such as site-survey',
        },
      ]);
    await checkAlone(unit, 'form', 'slug', next, before?.id);
  },
};
