import type ICAL from 'ical.js' with { 'resolution-mode': 'import' };
import { decodeText, guessEncoding } from './decode-text';
import { inThree } from './old-cards';
import { ZAWN_ID } from './targets';
import { LIMITS, tooManyRows, UnreadableFile, type ReadingChoice, type Table, type TableRow } from './table';

const HEADINGS = [
  'Name',
  'First name',
  'Last name',
  'Role',
  'Organisation',
  'Email',
  'Phone',
  'Mobile',
  'Other emails',
  'Other phones',
  'Street',
  'Postcode',
  'Town',
  'Country',
  'Website',
  'Notes',
  'Tags',
  ZAWN_ID,
];

/** How Zawn names a contact in a card (RFC 6350, 6.7.6), before its id. */
export const CARD_UID = 'urn:x-zawn:contact:';

type Property = ICAL.Property;

const textOf = (value: unknown): string =>
  Array.isArray(value)
    ? value.map(textOf).filter(Boolean).join(' ')
    : typeof value === 'string'
      ? // What version 3 escapes that the reader leaves as it is.
        value.replace(/\\([;,])/g, '$1').trim()
      : '';

const typesOf = (property: Property): string[] =>
  [property.getParameter('type') ?? []].flat().map((type) => String(type).toLowerCase());

/** The properties of a name, those that are preferred first (`PREF=1`, or `TYPE=PREF` as it was written before). */
function preferred(card: ICAL.Component, name: string): Property[] {
  const rank = (property: Property) => {
    const said = Number(property.getParameter('pref'));
    if (said >= 1) return said;
    return typesOf(property).includes('pref') ? 1 : 101;
  };
  return [...card.getAllProperties(name)].sort((a, b) => rank(a) - rank(b));
}

const valueOf = (property: Property | undefined) =>
  textOf(property?.getFirstValue()).replace(/^(tel|mailto):/i, '');

const all = (properties: readonly Property[]) => [...new Set(properties.map(valueOf))].filter(Boolean);

/** One card as the cells of a row. */
function cellsOf(card: ICAL.Component): string[] {
  const first = (name: string) => textOf(card.getFirstPropertyValue(name));
  const isFax = (property: Property) => typesOf(property).includes('fax');
  const phones = preferred(card, 'tel').filter((property) => !isFax(property));
  const mobile = phones.find((property) => typesOf(property).includes('cell'));
  const phone = phones.find((property) => property !== mobile);
  const [email, ...otherEmails] = all(preferred(card, 'email'));
  const numbers = [valueOf(phone ?? mobile), phone ? valueOf(mobile) : ''];
  const name = card.getFirstPropertyValue('n');
  const [family = '', given = '', additional = ''] = Array.isArray(name) ? name.map(textOf) : [];
  const address = preferred(card, 'adr').at(0)?.getFirstValue();
  const [, , street = '', town = '', , postcode = '', country = ''] = Array.isArray(address)
    ? address.map(textOf)
    : [];
  const [organisation = ''] = [card.getFirstPropertyValue('org')].flat().map(textOf);
  const tags = card.getFirstProperty('categories')?.getValues().map(textOf).join(', ') ?? '';
  return [
    first('fn') || `${given} ${family}`.trim(),
    `${given} ${additional}`.trim(),
    family,
    first('title') || first('role'),
    organisation,
    email ?? '',
    ...numbers,
    otherEmails.join(', '),
    all(phones)
      .filter((number) => !numbers.includes(number))
      .join(', '),
    street,
    postcode,
    town,
    country,
    valueOf(preferred(card, 'url').at(0)),
    first('note'),
    tags,
    first('uid').startsWith(CARD_UID) ? first('uid').slice(CARD_UID.length) : '',
  ];
}

/** The cards of a file one by one, so that one that is broken does not take the others with it. */
function cardsIn(text: string): string[] {
  return text.match(/^BEGIN:VCARD[ \t]*\r?$[\s\S]*?^END:VCARD[ \t]*\r?$/gim) ?? [];
}

/** What a card is of that is no person (RFC 6350, 6.1.4). */
const NO_PERSON: Readonly<Record<string, string>> = {
  group: 'a group of people',
  location: 'a place',
  org: 'an organisation',
};

/**
 * Reads vCards, versions 2.1, 3 and 4, a row a card. What is no person is left out and said. A card that cannot be read becomes a row that says so.
 * @throws UnreadableFile when there is none.
 */
export async function readCards(input: Uint8Array | string, choice: ReadingChoice = {}): Promise<Table> {
  const { default: cardReader } = await import('ical.js');
  const encoding = typeof input === 'string' ? undefined : guessEncoding(input);
  const text =
    typeof input === 'string' ? input : decodeText(input, choice.encoding ?? encoding?.value ?? 'utf-8');
  const cards = cardsIn(text);
  if (cards.length === 0) throw new UnreadableFile('There is no whole card in this file.');
  if (cards.length > LIMITS.rows) throw tooManyRows();
  const notes: string[] = [];
  const rows: TableRow[] = [];
  for (const [index, card] of cards.slice(0, choice.most).entries()) {
    try {
      const read = new cardReader.Component(cardReader.parse(inThree(card)) as unknown[]);
      const kind = NO_PERSON[textOf(read.getFirstPropertyValue('kind')).toLowerCase()];
      if (kind) notes.push(`Card ${index + 1} is of ${kind} and was left out.`);
      else rows.push({ row: index + 1, cells: cellsOf(read) });
    } catch {
      notes.push(`Card ${index + 1} is broken and was left out.`);
    }
  }
  if (rows.length === 0)
    throw new UnreadableFile(
      `None of the cards in this file is of a person and can be read. ${notes[0] ?? ''}`.trim(),
    );
  const used = HEADINGS.map((_, column) => rows.some(({ cells }) => cells[column] !== ''));
  const only = <T>(values: readonly T[]) => values.filter((_, column) => used[column]);
  return {
    format: 'cards',
    headings: only(HEADINGS),
    rows: rows.map(({ row, cells }) => ({ row, cells: only(cells) })),
    headingRow: { value: 0, sure: 1, why: 'Cards name their fields' },
    encoding,
    isTyped: false,
    notes: notes.slice(0, 20),
  };
}
