import { Mail } from 'lucide-react';
import { timelineKind, type Feature } from '../../kernel/shell/feature';
import { lazyPart } from '../../platform/frame/lazy-part';

const MailLine = lazyPart(async () => (await import('./mail-line')).MailLine);

/** Mail on timelines, and the addresses it is captured at. */
export const mail: Feature = {
  pages: [{ path: 'setup/mail', lazy: () => import('./mail-capture-page') }],
  places: [
    {
      path: '/setup/mail',
      label: 'Email',
      group: 'Setup',
      letter: 'E',
      icon: Mail,
      isFor: (policy) => policy.may('setUpCapture'),
      about: 'The addresses at which emails become leads or join a timeline, and what came in.',
      words: 'mail capture address inbox smtp',
    },
  ],
  timeline: [
    timelineKind({
      kind: 'mail',
      shownAs: 'Email',
      Sign: () => <Mail size={14} aria-label="Email" role="img" />,
      Line: MailLine,
      who: ({ record }) =>
        record.direction === 'out' ? Number(record.owner) : String(record.senderName ?? record.sender),
    }),
  ],
};
