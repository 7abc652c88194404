import { Problem } from './problem';

/** The id in an address. */
export function recordId(text: string): number {
  const id = Number(text);
  if (!/^\d{1,15}$/.test(text) || id < 1) throw new Problem('not-found', 'There is nothing at this address.');
  return id;
}
