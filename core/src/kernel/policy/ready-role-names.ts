/** The roles that every organisation begins with, by key. */
export const readyRoleNames = {
  rep: 'Rep',
  manager: 'Manager',
  director: 'Director',
  operations: 'Operations',
  readOnly: 'Read-only',
  finance: 'Finance',
  partner: 'Outside partner',
} as const;

export type ReadyRoleKey = keyof typeof readyRoleNames;

export const readyRoleKeys = Object.keys(readyRoleNames) as ReadyRoleKey[];

/** The role of whoever creates an organisation: somebody must be able to set it up. */
export const firstRole: ReadyRoleKey = 'operations';
