import { type Choice } from '@zawn/core';

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
