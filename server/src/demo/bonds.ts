import { addDays, type Day } from '@zawn/core';
import { workday } from './workday';
import { type Book, type Row } from './book';

/** Groups that some accounts form, and how many accounts stand below the first of each. */
const GROUPS = 7;
const BELOW = 3;
const ROLES = [
  'Sits on the board',
  'Advises them on instruments',
  'Runs their tenders',
  'Harbour users’ group',
];

/** Accounts of one owner in one town form a group, the first on file above the others. */
export function formGroups(book: Book, today: Day): void {
  const towns = new Map<string, Row[]>();
  for (const account of book.rows('account')) {
    const town = `${String(account.owner)} ${String(account.city)}`;
    towns.set(town, [...(towns.get(town) ?? []), account]);
  }
  const groups = [...towns.values()]
    .filter(({ length }) => length > 1)
    .sort((a, b) => b.length - a.length)
    .slice(0, GROUPS);
  for (const [at, [first, ...others]] of groups.entries())
    for (const other of others.slice(0, BELOW)) {
      const when = { at: `${workday(addDays(today, -60 - at))}T09:40:00.000Z`, person: Number(other.owner) };
      book.change('account', Number(other.id), when, { parent: first.id });
    }
}

/** Some people belong to a second account of the same owner, in a role of their own. */
export function joinSecondAccounts(book: Book, today: Day): void {
  const contacts = book.rows('contact');
  const accounts = book.rows('account');
  for (const [at, role] of ROLES.entries()) {
    const contact = contacts[(at + 1) * 61];
    const other = accounts.find(
      ({ id, owner }) => owner === contact.owner && id !== contact.account && Number(id) > at * 11,
    );
    if (!other) continue;
    const when = { at: `${workday(addDays(today, -40 - at))}T15:10:00.000Z`, person: Number(contact.owner) };
    book.create('membership', when, { contact: contact.id, account: other.id, role });
  }
}
