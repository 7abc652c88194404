import {
  Building2,
  ClipboardList,
  Contact,
  CopyCheck,
  Gauge,
  Handshake,
  GitFork,
  History,
  ListChecks,
  ListOrdered,
  ListTree,
  Magnet,
  Mail,
  Split,
  Tag as TagIcon,
  Sun,
  TextCursorInput,
  Trash2,
  Upload,
  type LucideIcon,
} from 'lucide-react';
import { type Role } from '@zawn/core';

/** A page one can go to, where it stands in the rail, and the letter behind `g`. */
export interface Place {
  path: string;
  label: string;
  group: 'Day' | 'Find' | 'Win' | 'Steer' | 'Setup';
  letter: string;
  icon: LucideIcon;
  /** Who has use for it; everyone when left out. */
  roles?: readonly Role[];
}

const all: readonly Place[] = [
  { path: '/', label: 'Today', group: 'Day', letter: 't', icon: Sun },
  { path: '/activities', label: 'Activities', group: 'Day', letter: 'k', icon: ListChecks },
  { path: '/leads', label: 'Leads', group: 'Find', letter: 'l', icon: Magnet },
  { path: '/forms', label: 'Forms', group: 'Find', letter: 'o', icon: ClipboardList, roles: ['operations'] },
  { path: '/imports', label: 'Imports', group: 'Find', letter: 'i', icon: Upload },
  { path: '/contacts', label: 'Contacts', group: 'Win', letter: 'c', icon: Contact },
  { path: '/accounts', label: 'Accounts', group: 'Win', letter: 'a', icon: Building2 },
  { path: '/deals', label: 'Deals', group: 'Win', letter: 'd', icon: Handshake },
  {
    path: '/team',
    label: 'Team pipeline',
    group: 'Steer',
    letter: 'p',
    icon: Gauge,
    roles: ['manager', 'operations'],
  },
  { path: '/duplicates', label: 'Duplicates', group: 'Steer', letter: 'u', icon: CopyCheck },
  { path: '/changes', label: 'Changes', group: 'Steer', letter: 'h', icon: History },
  { path: '/bin', label: 'Bin', group: 'Steer', letter: 'b', icon: Trash2 },
  {
    path: '/setup/assignment',
    label: 'Assignment',
    group: 'Setup',
    letter: 'w',
    icon: Split,
    roles: ['operations'],
  },
  {
    path: '/setup/fields',
    label: 'Fields',
    group: 'Setup',
    letter: 'f',
    icon: TextCursorInput,
    roles: ['operations'],
  },
  {
    path: '/setup/scores',
    label: 'Scores',
    group: 'Setup',
    letter: 's',
    icon: ListOrdered,
    roles: ['operations'],
  },
  {
    path: '/setup/conversion',
    label: 'Conversion',
    group: 'Setup',
    letter: 'e',
    icon: GitFork,
    roles: ['operations'],
  },
  {
    path: '/setup/choices',
    label: 'Choices',
    group: 'Setup',
    letter: 'v',
    icon: ListTree,
    roles: ['operations'],
  },
  { path: '/setup/tags', label: 'Tags', group: 'Setup', letter: 'g', icon: TagIcon, roles: ['operations'] },
  { path: '/setup/mail', label: 'Mail', group: 'Setup', letter: 'm', icon: Mail, roles: ['operations'] },
];

/** The places a person with this role goes to. */
export const placesFor = (role: Role) => all.filter(({ roles }) => !roles || roles.includes(role));
