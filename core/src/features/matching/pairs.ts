import { canBeOne, nameSimilarity, nameWords } from './similarity';
import { workDomain } from './candidates';

/** What two records are compared by. */
export interface Comparable {
  id: number;
  name: string;
  email: string | null;
  phone: string | null;
  domain: string | null;
  /** The organisation behind a person: its name, or its id. */
  at: string | number | null;
}

/** Two records that are probably one, the older first. */
export interface Pair {
  a: number;
  b: number;
  likeness: number;
  reason: string;
}

/** Names at least as alike as this are worth a look when nothing else is shared. */
const ALIKE = 0.86;
/** And as this when the mail domain or the organisation is. */
const ALIKE_THERE = 0.72;
/** A key that more than these share says nothing about anybody. */
const COMMON = 40;

/** How alike two people or organisations are, with why; undefined when they need no look. */
export function compare(a: Comparable, b: Comparable): Omit<Pair, 'a' | 'b'> | undefined {
  if (a.email && a.email === b.email) return { likeness: 1, reason: 'Same email' };
  const alike = canBeOne(a.name, b.name) ? nameSimilarity(a.name, b.name) : 0;
  const names = alike === 1 ? 'the same name' : 'a similar name';
  if (a.domain && a.domain === b.domain)
    return alike >= ALIKE_THERE
      ? { likeness: 0.65 + 0.34 * alike, reason: `Same website and ${names}` }
      : { likeness: 0.62, reason: 'Same website' };
  if (a.phone && a.phone === b.phone && alike >= ALIKE_THERE)
    return { likeness: 0.65 + 0.32 * alike, reason: `Same phone and ${names}` };
  if (alike < ALIKE_THERE) return undefined;
  const domain = workDomain(a.email);
  if (domain && domain === workDomain(b.email))
    return { likeness: 0.55 + 0.35 * alike, reason: `Same email domain and ${names}` };
  if (a.at !== null && a.at === b.at)
    return { likeness: 0.5 + 0.35 * alike, reason: `Same organisation and ${names}` };
  return alike >= ALIKE
    ? { likeness: 0.6 * alike, reason: alike === 1 ? 'The same name' : 'A similar name' }
    : undefined;
}

/** Keys under which likely pairs meet: what is not under one key with another is never compared with it. */
function keysOf({ name, email, phone, domain, at }: Comparable): string[] {
  const words = nameWords(name).map((word) => word.slice(0, 4));
  const sorted = [...words].sort();
  return [
    email && `mail ${email}`,
    phone && `phone ${phone}`,
    domain && `web ${domain}`,
    words.length > 1 && `name ${sorted.join(' ')}`,
    ...sorted.map((word) => at !== null && `at ${at} ${word}`),
    ...(words.length > 2
      ? sorted.map((_, left) => `part ${sorted.filter((__, i) => i !== left).join(' ')}`)
      : []),
  ].filter((key): key is string => typeof key === 'string');
}

/** Finds probable pairs among very many records, one record at a time, by keys instead of all with all. */
export class PairFinder {
  private readonly byKey = new Map<string, Comparable[]>();
  private readonly found = new Map<string, Pair>();

  /** Compares a record with those before it that share a key, and keeps it for those to come. */
  add(record: Comparable): void {
    const seen = new Set<number>();
    for (const key of keysOf(record)) {
      const block = this.byKey.get(key) ?? [];
      if (block.length < COMMON)
        for (const other of block) {
          if (seen.has(other.id)) continue;
          seen.add(other.id);
          const how = compare(other, record);
          if (!how) continue;
          const [a, b] = [other.id, record.id].sort((x, y) => x - y);
          this.found.set(`${a} ${b}`, { a, b, ...how });
        }
      block.push(record);
      this.byKey.set(key, block);
    }
  }

  /** The pairs found so far, the likeliest first. */
  pairs(): Pair[] {
    return [...this.found.values()].sort((x, y) => y.likeness - x.likeness || x.a - y.a || x.b - y.b);
  }
}
