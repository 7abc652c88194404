import { fieldOf, objectType, type AnyRecord, type ObjectKey } from '@zawn/core';
import { invalidInput } from '../../platform/http/problem';
import { type Unit } from './unit';
import { type Values } from './values';

/** Records above a record that are looked at; deeper trees are taken for a mistake. */
const DEEPEST = 50;

/**
 * Sees to it that a record does not come to stand above itself.
 * @param link its field that names what it is part of.
 * @throws Problem `invalid-input` that names the record.
 */
export async function refuseCircle(
  unit: Unit,
  object: ObjectKey,
  link: string,
  next: Values,
  before: AnyRecord | undefined,
): Promise<void> {
  if (!before || typeof next[link] !== 'number' || next[link] === before[link]) return;
  let above: number | null = next[link];
  for (let depth = 0; above !== null && depth < DEEPEST; depth += 1) {
    if (above === before.id) {
      const label = fieldOf(unit.catalogue, object, link)?.label ?? link;
      const name = String(before[objectType(object).nameField]);
      throw invalidInput([{ field: link, message: `${label}: ${name} would stand above itself` }]);
    }
    const row: Record<string, unknown> | null = await unit.manager.findOneBy<{ id: number }>(object, {
      id: above,
    });
    above = typeof row?.[link] === 'number' ? row[link] : null;
  }
}
