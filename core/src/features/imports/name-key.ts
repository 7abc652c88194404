import { type FieldValue } from '../../kernel/catalogue';
import { nameWords } from '../matching/similarity';

/** A name without regard to case, accents and runs of spaces. */
export function nameKey(value: FieldValue | undefined): string {
  const text = String(value ?? '');
  // Most names are plain letters, and a file has very many of them.
  const isPlain = /^[ -~]*$/.test(text);
  const bare = isPlain ? text : text.normalize('NFD').replace(/\p{M}/gu, '').replace(/\s/g, ' ');
  const small = bare.toLowerCase();
  const letters = isPlain ? small : small.replace(/ß/g, 'ss').replace(/ς/g, 'σ');
  return letters.replace(/ {2,}/g, ' ').trim();
}

/** A name without legal form, signs and spelling habits: the same for “Fjordlys AS”, “FJORDLYS” and “Fjordlys A/S”. */
export const alikeKey = (name: string): string => nameWords(name).join(' ') || nameKey(name);
