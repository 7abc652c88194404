import { type ActType } from '../../kernel/policy/act';

export const leadActs = {
  convertLeads: { label: 'Convert leads' },
} as const satisfies Record<string, ActType>;
