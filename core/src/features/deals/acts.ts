import { type ActType } from '../../kernel/policy/act';

export const dealActs = {
  closeDeals: { label: 'Win, lose and reopen deals' },
  setUpPipelines: { label: 'Set up pipelines and stages', isSetup: true },
} as const satisfies Record<string, ActType>;
