import { Building2, Contact } from 'lucide-react';
import { type Feature } from '../../kernel/shell/feature';
import { awaitedPart } from '../../platform/frame/lazy-part';

const PeopleHead = awaitedPart(async () => (await import('./people-head')).PeopleHead);
const ContactSuggestions = awaitedPart(
  async () => (await import('./contact-suggestions')).ContactSuggestions,
);
const Related = awaitedPart(async () => (await import('./related-records')).Related);
const AccountPicture = awaitedPart(async () => (await import('./account-picture')).default);

/** Contacts and accounts, and how they hang together. */
export const people: Feature = {
  pages: [
    { path: 'contacts', lazy: () => import('./contacts-page') },
    { path: 'accounts', lazy: () => import('./accounts-page') },
  ],
  places: [
    {
      path: '/contacts',
      label: 'Contacts',
      group: 'Win',
      letter: 'c',
      icon: Contact,
      onPhone: 'People',
      isFor: (policy) => policy.allows('contact', 'see'),
    },
    {
      path: '/accounts',
      label: 'Accounts',
      group: 'Win',
      letter: 'a',
      icon: Building2,
      isFor: (policy) => policy.allows('account', 'see'),
    },
  ],
  additions: [
    { object: 'contact', label: 'Contact', letter: 'c' },
    { object: 'account', label: 'Account', letter: 'a' },
  ],
  sheets: {
    lead: { Under: ContactSuggestions },
    contact: { Head: PeopleHead, Under: ContactSuggestions, Beside: Related },
    account: { Head: PeopleHead, Above: AccountPicture, Beside: Related },
  },
};
