/** What somebody may do beside reading and writing records; each is asked of `Policy.may`. */
export type Act =
  /** Change how the organisation works: people, teams, pipelines, fields, rules, forms. */
  | 'setUp'
  /** Take records out of Zawn as a file. A rep's book leaves only with a manager's knowledge. */
  | 'export'
  /** See how the team is doing. */
  | 'lead'
  /** Have an import given out by the assignment rules. */
  | 'giveByRules'
  /** Add a lead without an owner, for the rules to decide. */
  | 'leaveOwnerOut'
  /** Change views and lists that are somebody else's. */
  | 'changeShared';

interface RoleType {
  readonly label: string;
  /** Whose records of an everyday kind they see. */
  readonly sees: 'own' | 'team' | 'all';
  readonly may: readonly Act[];
  /** Has leads, deals and a target of their own. */
  readonly sells: 'always' | 'sometimes' | 'never';
}

/** The roles there are. Nothing else in Zawn names one. */
const roles = {
  rep: { label: 'Rep', sees: 'own', may: [], sells: 'always' },
  manager: { label: 'Manager', sees: 'team', may: ['export', 'lead', 'giveByRules'], sells: 'sometimes' },
  operations: {
    label: 'Operations',
    sees: 'all',
    may: ['setUp', 'export', 'lead', 'giveByRules', 'leaveOwnerOut', 'changeShared'],
    sells: 'never',
  },
} as const satisfies Record<string, RoleType>;

export type Role = keyof typeof roles;

export const roleType = (role: Role): RoleType => roles[role];

/** Every role with how it is called, for whoever is given one. */
export const roleChoices = Object.entries(roles).map(([key, { label }]) => ({
  key: key as Role,
  label,
}));

/** The roles whose people may do something. */
export const rolesThatMay = (act: Act): readonly Role[] =>
  roleChoices.map(({ key }) => key).filter((key) => roleType(key).may.includes(act));

/** The role of whoever creates an organisation: somebody must be able to set it up. */
export const firstRole: Role = 'operations';
