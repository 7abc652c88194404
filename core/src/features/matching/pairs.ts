import { canBeOne, NameParts, partsSimilarity } from './similarity';
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
const COMMON_KEY = 40;

/** A record made ready to be compared with many. */
export class PreparedRecord {
  readonly id: number;
  readonly name: NameParts;
  readonly email: string | null;
  /** The domain of its email, unless anyone can have an address there. */
  readonly mailDomain: string | undefined;
  readonly phone: string | null;
  readonly domain: string | null;
  readonly at: string | number | null;

  constructor({ id, name, email, phone, domain, at }: Comparable) {
    this.id = id;
    this.name = new NameParts(name);
    this.email = email;
    this.mailDomain = workDomain(email);
    this.phone = phone;
    this.domain = domain;
    this.at = at;
  }
}

/** How alike two people or organisations are, with why; undefined when they need no look. */
export function compare(a: PreparedRecord, b: PreparedRecord): Omit<Pair, 'a' | 'b'> | undefined {
  if (a.email && a.email === b.email) return { likeness: 1, reason: 'Same email' };
  const alike = canBeOne(a.name, b.name) ? partsSimilarity(a.name, b.name) : 0;
  const names = alike === 1 ? 'the same name' : 'a similar name';
  if (a.domain && a.domain === b.domain)
    return alike >= ALIKE_THERE
      ? { likeness: 0.65 + 0.34 * alike, reason: `Same website and ${names}` }
      : { likeness: 0.62, reason: 'Same website' };
  if (a.phone && a.phone === b.phone && alike >= ALIKE_THERE)
    return { likeness: 0.65 + 0.32 * alike, reason: `Same phone and ${names}` };
  if (alike < ALIKE_THERE) return undefined;
  if (a.mailDomain && a.mailDomain === b.mailDomain)
    return { likeness: 0.55 + 0.35 * alike, reason: `Same email domain and ${names}` };
  if (a.at !== null && a.at === b.at)
    return { likeness: 0.5 + 0.35 * alike, reason: `Same organisation and ${names}` };
  return alike >= ALIKE
    ? { likeness: 0.6 * alike, reason: alike === 1 ? 'The same name' : 'A similar name' }
    : undefined;
}

/** Keys under which likely pairs meet: what is not under one key with another is never compared with it. */
export function matchKeys({ name, email, phone, domain, at }: PreparedRecord): string[] {
  const words = name.words.map((word) => word.slice(0, 4));
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

/**
 * Finds probable pairs among very many records, one record at a time, by keys instead of all with all.
 * @typeParam K what stands for a key: its text, or something smaller made of it.
 */
export class PairFinder<K = string> {
  private readonly byKey = new Map<K, PreparedRecord[]>();
  private readonly found = new Map<string, Pair>();

  constructor(private readonly short: (key: string) => K) {}

  /** Keeps a record for those to come, under as many of its keys as are not yet too common. */
  keep(record: PreparedRecord): void {
    for (const key of matchKeys(record)) this.keepUnder(this.short(key), record);
  }

  /** Keeps a record under one key, unless that is too common. */
  keepUnder(key: K, record: PreparedRecord): void {
    const block = this.byKey.get(key);
    if (!block) this.byKey.set(key, [record]);
    else if (block.length < COMMON_KEY) block.push(record);
  }

  /**
   * Compares a record with those before it that share a key, and keeps it for those to come.
   * @param floor only pairs that are likelier than this are found.
   * @returns the keys under which it is kept.
   */
  add(record: PreparedRecord, floor = 0): K[] {
    const kept: K[] = [];
    const seen = new Set<number>([record.id]);
    for (const text of matchKeys(record)) {
      const key = this.short(text);
      const block = this.byKey.get(key) ?? [];
      if (block.length >= COMMON_KEY) continue;
      for (const other of block) {
        if (seen.has(other.id)) continue;
        seen.add(other.id);
        const how = compare(other, record);
        if (!how || how.likeness <= floor) continue;
        const [a, b] = [other.id, record.id].sort((x, y) => x - y);
        this.found.set(`${a} ${b}`, { a, b, ...how });
      }
      this.keepUnder(key, record);
      kept.push(key);
    }
    return kept;
  }

  /** The pairs found since they were last taken, the likeliest first. */
  takePairs(): Pair[] {
    const pairs = [...this.found.values()];
    this.found.clear();
    return pairs.sort((x, y) => y.likeness - x.likeness || x.a - y.a || x.b - y.b);
  }

  /** The keys that records are kept under. */
  keys(): Iterable<K> {
    return this.byKey.keys();
  }

  /** The records that are kept under a key. */
  under(key: K): readonly PreparedRecord[] {
    return this.byKey.get(key) ?? [];
  }
}
