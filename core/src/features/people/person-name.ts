import { type AnyRecord, type FieldValue } from '../../kernel/catalogue';

/** A person’s name in its two parts; null where it has none. */
export interface PersonName {
  firstName: string | null;
  lastName: string | null;
}

/** What stands before a name and belongs to none of its parts. */
const HONORIFIC =
  /^(mr|mrs|ms|miss|mx|sir|dr|prof|ir|ing|dipl|mag|herr|frau|m|mme|mlle|me|sr|sra|srta|sig|sigra|dott|dottssa|avv|dhr|mevr|hr|fru|pan|pani|dna|dra)\.?$/i;

/** What stands behind a name and belongs to none of its parts. */
const SUFFIX = /^(jr|sr|ii|iii|iv|ph\.?d|md|mba|msc|bsc|ba|ma|esq|obe|cbe|mbe|fca)\.?$/i;

/** Small words that a last name begins with. */
const PARTICLE =
  /^(von|vom|van|zu|zum|zur|de|del|della|dello|degli|dei|di|da|das|do|dos|du|des|der|den|ter|ten|te|la|le|lo|af|av|el|al|bin|ibn|ben|bint|mac|y|e|’t|'t|d’|d')$/i;

/** Written in scripts in which the family comes first. */
const FAMILY_FIRST = /^[\p{Script=Han}\p{Script=Hangul}\p{Script=Hiragana}\p{Script=Katakana}\sー・]+$/u;

/** Whether a word is one of the small ones that a last name begins with: “van”, “de la”. */
export const isNameParticle = (word: string): boolean => PARTICLE.test(word);

const joined = (words: readonly string[]) => (words.length > 0 ? words.join(' ') : null);

/**
 * The first and the last name in a whole name. `Seagrave, Runa` says which is which; otherwise the last word, with the
 * small words before it, is the last name. Titles and degrees belong to neither. A lone word is a first name.
 */
export function splitName(name: string): PersonName {
  const [behind, before, ...more] = name.split(',').map((part) => part.trim());
  if (before && more.length === 0 && !before.split(' ').every((word) => SUFFIX.test(word)))
    return { firstName: joined(bare(before)), lastName: joined(bare(behind)) };
  const words = bare(behind);
  if (words.length < 2) return { firstName: joined(words), lastName: null };
  if (FAMILY_FIRST.test(behind)) return { firstName: joined(words.slice(1)), lastName: words[0] };
  let from = words.length - 1;
  while (from > 1 && PARTICLE.test(words[from - 1])) from -= 1;
  // A name that begins with a small word has no first name before it: “van Dijk”.
  if (from === 1 && PARTICLE.test(words[0]) && words[0] === words[0].toLowerCase())
    return { firstName: null, lastName: joined(words) };
  return { firstName: joined(words.slice(0, from)), lastName: joined(words.slice(from)) };
}

/** The words of a name without titles before and degrees behind it, unless nothing would be left. */
function bare(text: string): string[] {
  const words = text.split(/\s+/).filter(Boolean);
  let [from, to] = [0, words.length];
  while (from < to && HONORIFIC.test(words[from])) from += 1;
  while (to > from + 1 && SUFFIX.test(words[to - 1])) to -= 1;
  return from < to ? words.slice(from, to) : words;
}

/** Both parts as one name; null when there is neither. */
export function joinName({ firstName, lastName }: Partial<PersonName>): string | null {
  const first = firstName ?? '';
  const last = lastName ?? '';
  const isFamilyFirst = first !== '' && last !== '' && FAMILY_FIRST.test(first + last);
  return (isFamilyFirst ? `${last} ${first}` : `${first} ${last}`).trim() || null;
}

/**
 * Completes the names of a contact about to be written: the whole follows from its parts, and the parts from the whole,
 * where only the one is given. What is given stands.
 * @param next the values about to be written, completed in place.
 * @param before the contact as it is; undefined for a new one.
 */
export function completeName(next: Record<string, FieldValue>, before?: AnyRecord): void {
  const isGiven = (key: string) =>
    key in next && (before === undefined ? next[key] !== null : next[key] !== before[key]);
  const now = (key: keyof PersonName): string | null => {
    const value = key in next ? next[key] : before?.[key];
    return typeof value === 'string' ? value : null;
  };
  const hasParts = isGiven('firstName') || isGiven('lastName');
  if (isGiven('name') && typeof next.name === 'string') {
    if (!hasParts) Object.assign(next, splitName(next.name));
    return;
  }
  if (!hasParts) return;
  const whole = joinName({ firstName: now('firstName'), lastName: now('lastName') });
  if (whole === null) return;
  const was = joinName({ firstName: text(before?.firstName), lastName: text(before?.lastName) });
  // A title before the name stays where it is.
  const written = text(before?.name);
  next.name = was !== null && written?.includes(was) ? written.replace(was, () => whole) : whole;
}

const text = (value: FieldValue | undefined) => (typeof value === 'string' ? value : null);
