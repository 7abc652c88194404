import { Users } from 'lucide-react';
import { type Feature } from '../../kernel/shell/feature';

/** Who works here and how they get in: people for whoever sets up, and one’s own sign-in. */
export const access: Feature = {
  pages: [
    { path: 'sign-in', lazy: () => import('./own-access-page') },
    { path: 'setup/people', lazy: () => import('./people-page') },
  ],
  places: [
    {
      path: '/setup/people',
      label: 'People',
      group: 'Setup',
      letter: 'x',
      icon: Users,
      isFor: (policy) => policy.may('managePeople'),
      about: 'Who works here: invite, role, team, a new password, leaving.',
      words: 'person user member invite invitation role password colleague leave deactivate team',
    },
  ],
};
