import { type ActType } from '../../kernel/policy/act';

export const safeKeepingActs = {
  keepBackups: { label: 'Look after backups', isSetup: true },
} as const satisfies Record<string, ActType>;
