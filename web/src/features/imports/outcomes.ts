import {
  objectType,
  type ImportCounts,
  type ImportOutcome,
  type ImportBucket,
  type ObjectKey,
} from '@zawn/core';
import { counted } from '../../platform/frame/format';

/** What can become of rows, in the order people care about, with how each is said beside its count. */
export const outcomes: readonly { outcome: ImportOutcome; label: string; done: string }[] = [
  { outcome: 'create', label: 'to create', done: 'created' },
  { outcome: 'update', label: 'to update', done: 'updated' },
  { outcome: 'same', label: 'unchanged', done: 'unchanged' },
  { outcome: 'skip', label: 'skipped', done: 'skipped' },
  { outcome: 'refuse', label: 'refused', done: 'refused' },
];

/**
 * What a bucket is called beside its count: “to create”, “accounts to create with them”.
 * @param when before the import or once it is `done`.
 */
export function bucketInWords(
  { object, outcome }: ImportBucket,
  target: ObjectKey,
  when: 'label' | 'done' = 'label',
): string {
  const words = outcomes.find((each) => each.outcome === outcome)?.[when] ?? '';
  return object === target ? words : `${objectType(object).plural.toLowerCase()} ${words} with them`;
}

/** The records beside the main ones that an import writes, with how many there are of each. */
export function bucketsBeside({ others }: ImportCounts): { bucket: ImportBucket; count: number }[] {
  return Object.entries(others).flatMap(([object, done]) =>
    (['create', 'update'] as const)
      .filter((outcome) => done[outcome] > 0)
      .map((outcome) => ({ bucket: { object: object as ObjectKey, outcome }, count: done[outcome] })),
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
export function actionInWords({ create, update }: ImportCounts): string {
  const parts = [
    create > 0 ? `create ${create.toLocaleString()}` : '',
    update > 0 ? `update ${update.toLocaleString()}` : '',
  ].filter(Boolean);
  const words = parts.join(', ');
  return words ? words.charAt(0).toUpperCase() + words.slice(1) : 'Nothing to write';
}
