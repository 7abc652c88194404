import { type Policy } from '@zawn/core';
import { GitFork, ListOrdered, ListTree, Tag, TextCursorInput } from 'lucide-react';
import { type Feature } from '../../kernel/shell/feature';

const ofSetup = { group: 'Setup', isFor: (policy: Policy) => policy.may('setUpFields') } as const;

/** What operations look after: fields, scores, conversion, choices and tags. */
export const setup: Feature = {
  pages: [
    { path: 'setup/fields', lazy: () => import('./fields-page') },
    { path: 'setup/scores', lazy: () => import('./scores-page') },
    { path: 'setup/conversion', lazy: () => import('./conversion-page') },
    { path: 'setup/choices', lazy: () => import('./choices-page') },
    { path: 'setup/tags', lazy: () => import('./tags-page') },
  ],
  places: [
    {
      ...ofSetup,
      path: '/setup/fields',
      sets: 'customField',
      label: 'Fields',
      letter: 'F',
      icon: TextCursorInput,
      about: 'Fields of your own on leads, contacts, accounts and deals, and what adding one asks for.',
      words: 'custom field quick add required form column',
    },
    {
      ...ofSetup,
      path: '/setup/choices',
      sets: 'choiceList',
      label: 'Choices',
      letter: 'C',
      icon: ListTree,
      about: 'The lists that fields are filled from: sources, industries, reasons, statuses.',
      words: 'options values status source industry reason loss',
    },
    {
      ...ofSetup,
      path: '/setup/tags',
      sets: 'tag',
      label: 'Tags',
      letter: 'G',
      icon: Tag,
      about: 'Every tag in use, and where. Rename, join or retire them.',
      words: 'label keyword merge rename',
    },
    {
      ...ofSetup,
      path: '/setup/scores',
      sets: 'scoreRule',
      label: 'Scores',
      letter: 'S',
      icon: ListOrdered,
      about: 'What gives a lead points, so that the likeliest stand first.',
      words: 'scoring points rule rank priority',
    },
    {
      ...ofSetup,
      path: '/setup/conversion',
      sets: 'carryOver',
      label: 'Conversion',
      letter: 'V',
      icon: GitFork,
      about: 'Which field of a lead fills which of the contact, account and deal it becomes.',
      words: 'convert carry over mapping',
    },
  ],
};
