import { number } from '../../platform/frame/format';
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
  { outcome: 'maybe', label: 'to create, perhaps on file', done: 'created, perhaps on file before' },
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
  if (object === target) return words;
  const records = objectType(object).plural.toLowerCase();
  switch (outcome) {
    case 'same':
      return `${records} taken as the same as another`;
    case 'maybe':
      return when === 'done'
        ? `${records} created with them, perhaps on file before`
        : `${records} to create with them, perhaps on file`;
    default:
      return `${records} ${words} with them`;
  }
}

/** The records beside the main ones that an import writes, with how many there are of each. */
export function bucketsBeside({
  others,
}: Pick<ImportCounts, 'others'>): { bucket: ImportBucket; count: number }[] {
  return Object.entries(others).flatMap(([object, done]) =>
    (['create', 'maybe', 'update', 'same'] as const).flatMap((outcome) => {
      const count = done[outcome] ?? 0;
      return count > 0 ? [{ bucket: { object: object as ObjectKey, outcome }, count }] : [];
    }),
  );
}

/** What became of the rows of an import, in a sentence. */
export function countsInWords({
  create,
  maybe,
  update,
  same,
  skip,
  refuse,
  others,
  noted,
}: ImportCounts): string {
  const made = (object: ObjectKey) => (others[object]?.create ?? 0) + (others[object]?.maybe ?? 0);
  const beside = (['account', 'contact'] as const)
    .filter((object) => made(object) > 0)
    .map((object) => counted(made(object), object));
  const parts = [
    create + maybe ? `${number(create + maybe)} created` : '',
    beside.length > 0 ? `${beside.join(' and ')} with them` : '',
    update ? `${number(update)} updated` : '',
    same ? `${number(same)} unchanged` : '',
    skip ? `${number(skip)} skipped` : '',
    refuse ? `${refuse.toLocaleString()} refused` : '',
    noted ? `${noted.toLocaleString()} with a cell left empty` : '',
  ].filter(Boolean);
  return parts.join(', ') || 'nothing written';
}

/** What the button says it will do: “Create 4,212, update 388”. */
export function actionInWords({ create, maybe, update, others }: ImportCounts): string {
  const beside = Object.entries(others).flatMap(([object, done]) => {
    const record = objectType(object as ObjectKey).label.toLowerCase();
    const made = (done.create ?? 0) + (done.maybe ?? 0);
    return [
      made > 0 ? `create ${counted(made, record)}` : '',
      done.update ? `update ${counted(done.update, record)}` : '',
    ].filter(Boolean);
  });
  const own = [
    create + maybe > 0 ? `create ${number(create + maybe)}` : '',
    update > 0 ? `update ${number(update)}` : '',
  ].filter(Boolean);
  // Records beside the main ones go without saying, unless they are all there is.
  const words = (own.length > 0 ? own : beside).join(', ');
  return words ? words.charAt(0).toUpperCase() + words.slice(1) : 'Nothing to write';
}
