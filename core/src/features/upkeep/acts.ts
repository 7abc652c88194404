import { type ActType } from '../../kernel/policy/act';

export const upkeepActs = {
  setUpUpkeep: { label: 'Set up what upkeep looks for', isSetup: true },
} as const satisfies Record<string, ActType>;
