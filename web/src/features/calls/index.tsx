import { lazy } from 'react';
import { type Feature } from '../../kernel/shell/feature';
import { CallDock } from './dock';

const CallButton = lazy(() => import('./call-button').then(({ CallButton: part }) => ({ default: part })));

/** Calls from any number on the screen, and the strip that stands below the page while there is one. */
export const calls: Feature = {
  sheets: {
    lead: { Head: CallButton },
    contact: { Head: CallButton },
    account: { Head: CallButton },
    deal: { Head: CallButton },
  },
  Docked: CallDock,
};
