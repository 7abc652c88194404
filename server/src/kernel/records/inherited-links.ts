import { type ObjectKey } from '@zawn/core';
import { type Values } from './record-hooks';
import { type Unit } from './unit';

/** Takes over links that the record behind another link has already. */
async function inherit(unit: Unit, next: Values, from: ObjectKey, links: readonly string[]): Promise<void> {
  const id = next[from];
  if (typeof id !== 'number') return;
  // A link that leads nowhere is refused by the door right after.
  const record = (await unit.everyones(from, [id])).get(id);
  const inherited = links.filter((link) => next[link] === undefined || next[link] === null);
  for (const link of inherited) next[link] = record?.[link] ?? null;
  // Whoever works on a deal need not see its account, nor need that still be there.
  unit.follow(next, inherited);
}

/** Work on a deal is work on its account and contact: one timeline tells the whole story. */
export async function inheritLinks(unit: Unit, next: Values, before: unknown): Promise<void> {
  if (before) return;
  await inherit(unit, next, 'deal', ['account', 'contact']);
  await inherit(unit, next, 'contact', ['account']);
}
