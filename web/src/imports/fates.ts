import { objectType, type ImportCounts, type ImportFate, type ImportPile, type ObjectKey } from '@zawn/core';
import { counted } from '../frame/format';

/** What can become of rows, in the order people care about, with how each is said beside its count. */
export const fates: readonly { fate: ImportFate; label: string }[] = [
  { fate: 'create', label: 'to create' },
  { fate: 'update', label: 'to update' },
  { fate: 'same', label: 'unchanged' },
  { fate: 'skip', label: 'skipped' },
  { fate: 'refuse', label: 'refused' },
];

/** What a pile is called beside its count: “to create”, “accounts to create with them”. */
export function pileInWords({ object, fate }: ImportPile, target: ObjectKey): string {
  const label = fates.find((each) => each.fate === fate)?.label ?? '';
  return object === target ? label : `${objectType(object).plural.toLowerCase()} ${label} with them`;
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
