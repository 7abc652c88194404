import { Building2, Contact } from 'lucide-react';
import { lazy } from 'react';
import { type Feature } from '../../kernel/shell/feature';

const PeopleHead = lazy(() => import('./people-head').then(({ PeopleHead: part }) => ({ default: part })));
const ContactSuggestions = lazy(() =>
  import('./contact-suggestions').then(({ ContactSuggestions: part }) => ({ default: part })),
);
const Related = lazy(() => import('./related-records').then(({ Related: part }) => ({ default: part })));
const AccountPicture = lazy(() => import('./account-picture'));

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
