import { objectType, type ImportCounts, type ImportFate, type ImportPile, type ObjectKey } from '@zawn/core';
import { counted } from '../../platform/frame/format';

/** What can become of rows, in the order people care about, with how each is said beside its count. */
export const fates: readonly { fate: ImportFate; label: string; done: string }[] = [
  { fate: 'create', label: 'to create', done: 'created' },
  { fate: 'update', label: 'to update', done: 'updated' },
  { fate: 'same', label: 'unchanged', done: 'unchanged' },
  { fate: 'skip', label: 'skipped', done: 'skipped' },
  { fate: 'refuse', label: 'refused', done: 'refused' },
];

/**
 * What a pile is called beside its count: “to create”, “accounts to create with them”.
 * @param when before the import or once it is `done`.
 */
export function pileInWords(
  { object, fate }: ImportPile,
  target: ObjectKey,
  when: 'label' | 'done' = 'label',
): string {
  const words = fates.find((each) => each.fate === fate)?.[when] ?? '';
  return object === target ? words : `${objectType(object).plural.toLowerCase()} ${words} with them`;
}

/** The records beside the main ones that an import writes, with how many there are of each. */
export function pilesBeside({ others }: ImportCounts): { pile: ImportPile; count: number }[] {
  return Object.entries(others).flatMap(([object, done]) =>
    (['create', 'update'] as const)
      .filter((fate) => done[fate] > 0)
      .map((fate) => ({ pile: { object: object as ObjectKey, fate }, count: done[fate] })),
  );
}

/** What became of the rows of an import, in a sentence. */
export function countsInWords({ create, update, same, skip, refuse, others }: ImportCounts): string {
  const { account, contact } = others;
  const beside = [
    account?.create ? counted(account.create, 'account') : '',
    contact?.create ? counted(contact.create, 'contact') : '',
  ].filter(Boolean);
  const parts = [
    create ? `${create.toLocaleString()} created` : '',
    beside.length > 0 ? `${beside.join(' and ')} with them` : '',
    update ? `${update.toLocaleString()} updated` : '',
    same ? `${same.toLocaleString()} unchanged` : '',
    skip ? `${skip.toLocaleString()} skipped` : '',
    refuse ? `${refuse.toLocaleString()} refused` : '',
  ].filter(Boolean);
  return parts.join(', ') || 'nothing written';
}

/** What the button says it will do: “Create 4,212, update 388”. */
export function deedInWords({ create, update }: ImportCounts): string {
  const parts = [
    create > 0 ? `create ${create.toLocaleString()}` : '',
    update > 0 ? `update ${update.toLocaleString()}` : '',
  ].filter(Boolean);
  const words = parts.join(', ');
  return words ? words.charAt(0).toUpperCase() + words.slice(1) : 'Nothing to write';
}
