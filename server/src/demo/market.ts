import { addDays, splitName, type Day } from '@zawn/core';
import { type Book, type Row } from './book';
import { mailOf, type Rep } from './company';
import { workday } from './workday';
import { type Random } from './random';
import { firstNames, industries, lastNames, places, roles, teamOf, type Industry, type Place } from './words';

export interface Account {
  id: number;
  name: string;
  owner: Rep;
  industry: Industry;
  country: Place['country'];
  city: string;
  contacts: number[];
  /** The day it is first known from. */
  since: Day;
}

/** Ranges that the regulators keep free for fiction. */
const phoneRanges: Record<Place['country'], (random: Random) => string> = {
  GB: (random) => `+441632960${String(random.int(0, 999)).padStart(3, '0')}`,
  IE: (random) => `+3532091${String(random.int(0, 99_999)).padStart(5, '0')}`,
  DE: (random) => `+493023125${String(random.int(0, 999)).padStart(3, '0')}`,
  FR: (random) => `+33199${String(random.int(0, 9_999)).padStart(6, '0')}`,
  SE: (random) => `+46846500${String(random.int(400, 499))}`,
};

export const phoneIn = (country: Place['country'], random: Random) => phoneRanges[country](random);

export const currencyIn = (country: Place['country']) =>
  ({ GB: 'GBP', IE: 'EUR', DE: 'EUR', FR: 'EUR', SE: 'SEK' })[country];

/** Hands out organisations that do not exist, each name once. */
export class Market {
  private readonly free: { place: Place; industry: Industry; name: string }[] = [];
  private readonly people = new Set<string>();

  /** @param more added to every name, where the places there are would not suffice. */
  constructor(
    private readonly random: Random,
    more = '',
  ) {
    for (const place of places) {
      for (const [industry, kinds] of Object.entries(industries) as [Industry, readonly string[]][]) {
        for (const kind of kinds) this.free.push({ place, industry, name: `${place.name} ${kind}${more}` });
      }
    }
  }

  /** How many organisations can still be handed out. */
  get left(): number {
    return this.free.length;
  }

  organisation() {
    const [taken] = this.free.splice(Math.floor(this.random.unit() * this.free.length), 1);
    return taken;
  }

  personName(): string {
    for (let tries = 0; ; tries += 1) {
      const name = `${this.random.pick(firstNames)} ${this.random.pick(lastNames)}`;
      if (tries < 50 && this.people.has(name)) continue;
      this.people.add(name);
      return name;
    }
  }
}

export const domainOf = (name: string) =>
  `${name
    .toLowerCase()
    .replace(/ and /g, '-')
    .replace(/[^a-z-]+/g, '-')}.example`;

/** An account with its first contacts. */
export function openAccount(
  book: Book,
  random: Random,
  market: Market,
  reps: readonly Rep[],
  since: Day,
  today: Day,
): Account {
  const { name, place, industry } = market.organisation();
  const owner = random.pick(reps.filter(({ team }) => team === teamOf[industry]));
  const happening = { at: `${since}T10:${random.int(10, 59)}:00.000Z`, person: owner.id };
  const { country, name: city } = place;
  const row: Row = {
    name,
    domain: domainOf(name),
    industry,
    phone: phoneIn(country, random),
    street: `${random.int(1, 90)} ${random.pick(['Quay Road', 'Mill Lane', 'Station Way', 'Weir Street', 'Hill Road'])}`,
    postcode: null,
    city,
    country,
    parent: null,
    relationship: 'prospect',
    description: null,
    owner: owner.id,
  };
  const id = book.create('account', happening, row);
  const account: Account = { id, name, owner, industry, country, city, contacts: [], since };
  const size = random.weighted({ '1': 30, '2': 35, '3': 22, '4': 13 });
  for (let index = 0; index < Number(size); index += 1) {
    const on = workday(addDays(since, index * random.int(0, 20)));
    addContact(book, random, market, account, on < today ? on : since);
  }
  return account;
}

export function addContact(
  book: Book,
  random: Random,
  market: Market,
  account: Account,
  on: Day,
  name = market.personName(),
): number {
  const { id, country, city, owner } = account;
  const phone = phoneIn(country, random);
  const row: Row = {
    name,
    ...splitName(name),
    role: random.pick(roles),
    account: id,
    email: mailOf(name, domainOf(account.name)),
    phone,
    mobile: random.chance(0.4) ? phoneIn(country, random) : null,
    city,
    country,
    relationship: 'prospect',
    description: null,
    owner: owner.id,
  };
  const contact = book.create('contact', { at: `${on}T11:05:00.000Z`, person: owner.id }, row);
  account.contacts.push(contact);
  return contact;
}
