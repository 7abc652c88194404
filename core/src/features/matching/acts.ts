import { type ActType } from '../../kernel/policy/act';

export const matchingActs = {
  mergeRecords: { label: 'Merge duplicates' },
} as const satisfies Record<string, ActType>;
