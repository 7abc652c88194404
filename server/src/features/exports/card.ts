import { countryName, type AnyRecord } from '@zawn/core';
import { CARD_UID } from '@zawn/core/imports';

const string = (value: AnyRecord[string]) => (typeof value === 'string' ? value : '');

async function library() {
  return (await import('ical.js')).default;
}

/** Writes a contact as a vCard 4.0 (RFC 6350), with the name of its account. */
export type CardWriter = (contact: AnyRecord, account: string | undefined) => string;

/** The writer of cards; its library is fetched when the first one is needed. */
export async function cardWriter(): Promise<CardWriter> {
  const ICAL = await library();
  return (contact, account) => cardOf(ICAL, contact, account);
}

type Library = Awaited<ReturnType<typeof library>>;

function cardOf(ICAL: Library, contact: AnyRecord, account: string | undefined): string {
  const card = new ICAL.Component(['vcard', [], []]);
  const add = (name: string, value: string | string[], parameters: Record<string, string> = {}) => {
    const property = new ICAL.Property(name, card);
    for (const [key, parameter] of Object.entries(parameters)) property.setParameter(key, parameter);
    property.setValue(value);
    card.addProperty(property);
  };
  add('version', '4.0');
  add('fn', string(contact.name));
  add('uid', `${CARD_UID}${contact.id}`);
  add('n', [string(contact.lastName), string(contact.firstName), '', '', '']);
  if (account) add('org', [account]);
  if (contact.role) add('title', string(contact.role));
  if (contact.email) add('email', string(contact.email));
  if (contact.phone) add('tel', string(contact.phone), { type: 'work' });
  if (contact.mobile) add('tel', string(contact.mobile), { type: 'cell' });
  if (contact.city || contact.country)
    add('adr', ['', '', '', string(contact.city), '', '', countryName(string(contact.country))]);
  if (contact.description) add('note', string(contact.description));
  if (Array.isArray(contact.tags) && contact.tags.length > 0) {
    const property = new ICAL.Property('categories', card);
    property.setValues(contact.tags.map(String));
    card.addProperty(property);
  }
  add('rev', contact.updatedAt.replace(/\.\d+Z$/, 'Z'));
  return `${card.toString()}\r\n`;
}
