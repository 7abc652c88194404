import { type Choice, type FieldType } from '@zawn/core';
import { partsOf, type TargetKey } from '@zawn/core/imports';

/** Behind the organisation’s own fields made before. */
const LAST = 1000;

/** A key for a custom field from what a column is headed: `Shoe size` → `x_shoeSize`. */
export function keyFor(heading: string): string {
  const words = heading
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .split(/[^A-Za-z0-9]+/)
    .filter(Boolean)
    .map((word, index) =>
      index === 0 ? word.toLowerCase() : word.charAt(0).toUpperCase() + word.slice(1).toLowerCase(),
    );
  const key = words.join('').replace(/^\d+/, '').slice(0, 40);
  return `x_${/^[a-z]/.test(key) ? key : `field${key}`}`.slice(0, 42);
}

/** A new choice, with a key that none of the others has. */
export function newChoice(label: string, others: readonly Choice[] = []): Choice {
  const key = keyFor(label).slice(2);
  let free = key;
  for (let count = 2; others.some((other) => other.key === free); count += 1) free = `${key}${count}`;
  return { key: free, label };
}

/** A custom field made from a column: named like it, its type and choices as its values suggest. */
export function customFieldFor(
  object: TargetKey,
  heading: string,
  type: FieldType,
  values: readonly string[],
): { object: TargetKey; key: string; label: string; type: FieldType; [more: string]: unknown } {
  const members = type === 'choices' ? values.flatMap(partsOf) : values.filter(Boolean);
  const different = [...new Set(members)];
  const choices = different.reduce<Choice[]>((made, label) => [...made, newChoice(label, made)], []);
  return {
    object,
    key: keyFor(heading),
    label: heading.slice(0, 60),
    type,
    ...(type === 'choice' || type === 'choices' ? { choices: JSON.stringify(choices) } : {}),
    required: false,
    position: LAST,
    retired: false,
  };
}
