import { type ActType } from '../../kernel/policy/act';

export const formActs = {
  setUpCapture: { label: 'Set up forms and addresses for mail', isSetup: true },
} as const satisfies Record<string, ActType>;
