import { type ActType } from '../../kernel/policy/act';

export const productActs = {
  setUpProducts: { label: 'Set up products', isSetup: true },
} as const satisfies Record<string, ActType>;
