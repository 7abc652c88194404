import { type ActType } from '../../kernel/policy/act';

export const assignmentActs = {
  giveByRules: { label: 'Have an import given out by the assignment rules' },
  leaveOwnerOut: { label: 'Add a lead without an owner, for the rules to decide' },
  setUpAssignment: { label: 'Set up assignment rules and territories', isSetup: true },
} as const satisfies Record<string, ActType>;
