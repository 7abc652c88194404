import { addDays, splitName, type Day } from '@zawn/core';
import { workday } from './workday';
import { type Book, type Row } from './book';

/** What Zawn keeps of a record beside its own fields; a second record gets its own. */
const HEAD = ['id', 'version', 'createdAt', 'createdBy', 'updatedAt', 'deletedAt'];

const plain = (row: Row): Row =>
  Object.fromEntries(Object.entries(row).filter(([key]) => !HEAD.includes(key)));

/** “R. Seagrave” for “Runa Seagrave”, as people write who are in a hurry. */
const shortened = (name: string) => name.replace(/^(\S)\S*\s/, '$1. ');

/** A few people and an organisation that somebody entered a second time, as happens. */
export function enterTwice(book: Book, today: Day): void {
  const contacts = book.rows('contact').filter(({ email, account }) => email && account);
  for (const [at, every] of [31, 87, 140, 203].entries()) {
    const first = contacts[every % contacts.length];
    const when = {
      at: `${workday(addDays(today, -20 - at * 9))}T10:15:00.000Z`,
      person: Number(first.owner),
    };
    book.create('contact', when, {
      ...plain(first),
      name: shortened(String(first.name)),
      ...splitName(shortened(String(first.name))),
      email: at % 2 === 0 ? first.email : String(first.email).replace(/^([a-z])[a-z]*\./, '$1.'),
      mobile: null,
      relationship: 'prospect',
    });
  }
  const accounts = book.rows('account').filter(({ domain }) => domain);
  const known = accounts[12];
  const when = { at: `${workday(addDays(today, -33))}T14:40:00.000Z`, person: Number(known.owner) };
  book.create('account', when, {
    ...plain(known),
    name: `${String(known.name).replace('Harbour', 'Harbor').replace('Authority', 'Auth.')} Ltd`,
    phone: null,
    relationship: 'prospect',
  });
}
