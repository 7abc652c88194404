import providers from 'email-providers/common.json';
import { nameSimilarity } from './similarity';

/** What is known of a person or organisation that might be on file already. */
export interface Described {
  name: string;
  email?: string | null;
  domain?: string | null;
}

export interface OnFile extends Described {
  id: number;
}

export interface Candidate {
  id: number;
  /** From 0 to 1: how sure it is that both are the same. */
  likeness: number;
  /** Why it is shown, in words: “Same email”. */
  reason: string;
}

/** Names less alike than this are not offered at all. */
const ALIKE = 0.72;

/** Whether two names are alike enough to be offered for each other. */
export const areAlike = (a: string, b: string) => nameSimilarity(a, b) >= ALIKE;

/** Mail providers whose domain says nothing about where someone works, those of made-up people included. */
const PUBLIC_MAIL = new Set([
  ...providers,
  'mail.example',
  'post.example',
  'webmail.example',
  'freemail.example',
]);

/** The domain behind an email address, unless it is a public provider's; undefined without one. */
export function workDomain(email: string | null | undefined): string | undefined {
  const domain = email?.split('@')[1]?.toLowerCase();
  return domain && !PUBLIC_MAIL.has(domain) ? domain : undefined;
}

function likely(candidates: (Candidate | undefined)[]): Candidate[] {
  return candidates
    .filter((candidate) => candidate !== undefined)
    .sort((a, b) => b.likeness - a.likeness || a.id - b.id);
}

/** Contacts that may be this person, the likeliest first: the same email, or the same domain and a similar name, or a similar name. */
export function matchContacts(person: Described, contacts: readonly OnFile[]): Candidate[] {
  const domain = workDomain(person.email);
  return likely(
    contacts.map((contact) => {
      const { id } = contact;
      if (person.email && person.email === contact.email) return { id, likeness: 1, reason: 'Same email' };
      const alike = nameSimilarity(person.name, contact.name);
      if (alike < ALIKE) return undefined;
      const names = `${person.name} / ${contact.name}`;
      if (domain && domain === workDomain(contact.email)) {
        return { id, likeness: 0.6 + 0.35 * alike, reason: `Same email domain and similar name: ${names}` };
      }
      return { id, likeness: 0.6 * alike, reason: alike === 1 ? 'Same name' : `Similar name: ${names}` };
    }),
  );
}

/** Accounts that may be this organisation, the likeliest first: the same domain, a similar name, or both. */
export function matchAccounts(organisation: Described, accounts: readonly OnFile[]): Candidate[] {
  const domain = organisation.domain ?? workDomain(organisation.email);
  return likely(
    accounts.map((account) => {
      const { id } = account;
      const alike = nameSimilarity(organisation.name, account.name);
      const names = `${organisation.name} / ${account.name}`;
      const sameDomain = domain !== undefined && domain === account.domain;
      if (sameDomain && alike >= ALIKE) {
        return { id, likeness: 0.65 + 0.35 * alike, reason: `Same domain and similar name: ${names}` };
      }
      if (sameDomain) return { id, likeness: 0.8, reason: `Same domain: ${domain}` };
      if (alike < ALIKE) return undefined;
      return { id, likeness: 0.7 * alike, reason: alike === 1 ? 'Same name' : `Similar name: ${names}` };
    }),
  );
}
