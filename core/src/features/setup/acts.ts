import { type ActType } from '../../kernel/policy/act';

export const setupActs = {
  setUpFields: { label: 'Set up fields, choices, tags and scores', isSetup: true },
} as const satisfies Record<string, ActType>;
