import { type ActType } from '../../kernel/policy/act';

export const forecastActs = {
  seeTeam: { label: 'See how the team is doing' },
  setTargets: { label: 'Set targets', isSetup: true },
} as const satisfies Record<string, ActType>;
