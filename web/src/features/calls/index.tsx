import { callable } from '@zawn/core';
import { PhoneCall } from 'lucide-react';
import { type Feature } from '../../kernel/shell/feature';
import { CallDock } from './dock';
import { awaitedPart, lazyPart } from '../../platform/frame/lazy-part';

const CallButton = awaitedPart(async () => (await import('./call-button')).CallButton);
const MakeCallList = lazyPart(async () => (await import('./make-list')).MakeCallList);

/** Calls from any number on the screen, the strip that stands below the page while there is one, and call lists. */
export const calls: Feature = {
  pages: [{ path: 'call-lists', lazy: () => import('./lists-page') }],
  places: [
    {
      path: '/call-lists',
      label: 'Call lists',
      group: 'Day',
      letter: 'q',
      icon: PhoneCall,
      isFor: (policy) => policy.allows('callList', 'add'),
    },
  ],
  sheets: {
    lead: { Head: CallButton },
    contact: { Head: CallButton },
    account: { Head: CallButton },
    deal: { Head: CallButton },
  },
  viewActions: [
    {
      key: 'call',
      label: 'Call one after the other…',
      objects: callable.map(({ key }) => key),
      Dialog: MakeCallList,
    },
  ],
  Docked: CallDock,
};
