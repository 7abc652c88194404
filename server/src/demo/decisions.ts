import { type Book, type Row } from './book';
import { type Random } from './random';

/** Parts that people have, the first one named most often. */
const PARTS = { decides: 5, uses: 4, pays: 3, influences: 3, supports: 2, blocks: 1 };
const STANCES = { neutral: 4, for: 4, unknown: 3, against: 1 };
/** Of how many deals it is known who has a part in them, and of so many more than the one dealt with. */
const KNOWN = 0.75;
const ANOTHER = 0.55;

/** Who has which part in the decision over each deal: the one dealt with, and often somebody else of the account. */
export function nameWhoDecides(book: Book, random: Random): void {
  const byAccount = new Map<number, Row[]>();
  for (const contact of book.rows('contact')) {
    const account = Number(contact.account);
    byAccount.set(account, [...(byAccount.get(account) ?? []), contact]);
  }
  for (const deal of book.rows('deal')) {
    if (!random.chance(KNOWN)) continue;
    const others = (byAccount.get(Number(deal.account)) ?? []).filter(({ id }) => id !== deal.contact);
    const people = [
      ...(deal.contact === null ? [] : [Number(deal.contact)]),
      ...(others.length > 0 && random.chance(ANOTHER) ? [Number(random.pick(others).id)] : []),
    ];
    const when = { at: String(deal.createdAt), person: Number(deal.owner) };
    for (const contact of people) {
      const role = random.weighted<string>(PARTS);
      const stance =
        role === 'blocks' ? 'against' : role === 'supports' ? 'for' : random.weighted<string>(STANCES);
      book.create('dealContact', when, { deal: Number(deal.id), contact, role, stance });
    }
  }
}
