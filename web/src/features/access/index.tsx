import { Eye, ShieldCheck, Users } from 'lucide-react';
import { type Feature } from '../../kernel/shell/feature';

/** Who works here and how they get in: people for whoever sets up, and one’s own sign-in. */
export const access: Feature = {
  pages: [
    { path: 'profile', lazy: () => import('./profile-page') },
    { path: 'sign-in', lazy: () => import('./own-access-page') },
    { path: 'setup/people', lazy: () => import('./people-page') },
    { path: 'setup/roles', lazy: () => import('./roles-page') },
    { path: 'setup/reach', lazy: () => import('./reach-page') },
  ],
  places: [
    {
      path: '/setup/people',
      sets: 'person',
      label: 'People',
      group: 'Setup',
      letter: 'P',
      icon: Users,
      isFor: (policy) => policy.may('managePeople'),
      about: 'Who works here: invite, role, team, a new password, leaving.',
      words: 'person user member invite invitation role password colleague leave deactivate team',
    },
    {
      path: '/setup/roles',
      sets: 'role',
      label: 'Roles',
      group: 'Setup',
      letter: 'R',
      icon: ShieldCheck,
      isFor: (policy) => policy.may('managePeople'),
      about: 'What people may see and do: objects, stages, fields, and who gains or loses what by a change.',
      words: 'role permission right access rights see edit hide field scope reach profile',
    },
    {
      path: '/setup/reach',
      label: 'What can somebody see?',
      group: 'Setup',
      letter: 'X',
      icon: Eye,
      isFor: (policy) => policy.may('managePeople'),
      about:
        'What a person sees and may change, in counts and examples, and the rule that decides over one record.',
      words: 'permission see reach explain why access visible',
    },
  ],
};
