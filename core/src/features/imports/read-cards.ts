import type ICAL from 'ical.js' with { 'resolution-mode': 'import' };
import { decodeText, guessEncoding } from './decode-text';
import { LIMITS, tooManyRows, UnreadableFile, type ReadingChoice, type Table, type TableRow } from './table';

const HEADINGS = [
  'Name',
  'Role',
  'Organisation',
  'Email',
  'Phone',
  'Mobile',
  'Street',
  'Postcode',
  'Town',
  'Country',
  'Website',
  'Notes',
  'Tags',
];

type Property = ICAL.Property;

const textOf = (value: unknown): string =>
  Array.isArray(value)
    ? value.map(textOf).filter(Boolean).join(' ')
    : typeof value === 'string'
      ? value.trim()
      : '';

const typesOf = (property: Property): string[] =>
  [property.getParameter('type') ?? []].flat().map((type) => String(type).toLowerCase());

/** One card as the cells of a row. */
function cellsOf(card: ICAL.Component): string[] {
  const first = (name: string) => textOf(card.getFirstPropertyValue(name));
  const phones = card.getAllProperties('tel');
  const said = (property: Property | undefined) => textOf(property?.getFirstValue()).replace(/^tel:/i, '');
  const mobile = phones.find((property) => typesOf(property).some((type) => type === 'cell'));
  const phone = phones.find((property) => property !== mobile && !typesOf(property).includes('fax'));
  const name = card.getFirstPropertyValue('n');
  const [family = '', given = ''] = Array.isArray(name) ? name.map(textOf) : [];
  const address = card.getFirstPropertyValue('adr');
  const [, , street = '', town = '', , postcode = '', country = ''] = Array.isArray(address)
    ? address.map(textOf)
    : [];
  const [organisation = ''] = [card.getFirstPropertyValue('org')].flat().map(textOf);
  const tags = card.getFirstProperty('categories')?.getValues().map(textOf).join(', ') ?? '';
  return [
    first('fn') || `${given} ${family}`.trim(),
    first('title') || first('role'),
    organisation,
    first('email').replace(/^mailto:/i, ''),
    said(phone ?? mobile),
    phone ? said(mobile) : '',
    street,
    postcode,
    town,
    country,
    first('url'),
    first('note'),
    tags,
  ];
}

/** The cards of a file one by one, so that one that is broken does not take the others with it. */
function cardsIn(text: string): string[] {
  return text.match(/^BEGIN:VCARD[ \t]*\r?$[\s\S]*?^END:VCARD[ \t]*\r?$/gim) ?? [];
}

/**
 * Reads vCards, versions 3 and 4, a row a card. A card that cannot be read becomes a row that says so.
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
      rows.push({
        row: index + 1,
        cells: cellsOf(new cardReader.Component(cardReader.parse(card) as unknown[])),
      });
    } catch {
      notes.push(`Card ${index + 1} is broken and was left out.`);
    }
  }
  if (rows.length === 0) throw new UnreadableFile('None of the cards in this file can be read.');
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
