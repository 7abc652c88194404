import { type NoticeKind } from './api';

/** Kinds that go by email only to whoever wants that: they are of no use later. */
export const unmailedAtFirst: readonly NoticeKind[] = ['dueSoon'];

/** What people can be told of, and how each kind is called where it can be switched off. */
export const noticeKinds: readonly { key: NoticeKind; label: string; help: string }[] = [
  {
    key: 'leadArrived',
    label: 'A new lead is yours',
    help: 'It came through a form, by email, through the API or from a file, or a colleague made it for you.',
  },
  {
    key: 'mailArrived',
    label: 'A lead or contact of yours has written',
    help: 'An email to a capture address came from a lead or a contact of yours.',
  },
  {
    key: 'handedOver',
    label: 'A colleague handed you something',
    help: 'A lead, contact, account or deal that was someone else’s is yours now.',
  },
  {
    key: 'taskAssigned',
    label: 'A colleague gave you something to do',
    help: 'A call, a meeting or a task was planned for you or handed to you.',
  },
  {
    key: 'taskDone',
    label: 'Something you gave to others is done',
    help: 'What you planned for a colleague was done.',
  },
  {
    key: 'dueSoon',
    label: 'Something with a time is near',
    help: 'A call, a meeting or a task of yours that is planned for a time of day.',
  },
  { key: 'mentioned', label: 'A colleague mentioned you', help: 'In a note on a record you may see.' },
  {
    key: 'ruleAsleep',
    label: 'A rule no longer works',
    help: 'A field that a rule of assignment or of scores asks about was retired. Whoever sets up the rules hears of it.',
  },
  {
    key: 'snapshotFailed',
    label: 'A scheduled snapshot was not taken',
    help: 'One that you set up: its report asks for what is gone, or its folder is.',
  },
  { key: 'importFinished', label: 'Your import has ended', help: 'It went through, or it did not, and why.' },
];
