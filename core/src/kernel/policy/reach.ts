/** How far somebody's permission goes over records of one kind, the narrowest first. Each holds what the one before does. */
export const reaches = ['none', 'own', 'shared', 'team', 'below', 'all'] as const;
export type Reach = (typeof reaches)[number];

export const reachLabels: Readonly<Record<Reach, string>> = {
  none: 'None',
  own: 'Own',
  shared: 'Own and shared',
  team: 'Team',
  below: 'Team and below',
  all: 'All',
};

/** What is done with records and can be permitted. */
export const operations = ['see', 'add', 'edit', 'delete', 'import', 'export'] as const;
export type Operation = (typeof operations)[number];

export const operationLabels: Readonly<Record<Operation, string>> = {
  see: 'See',
  add: 'Add',
  edit: 'Edit',
  delete: 'Delete',
  import: 'Import',
  export: 'Export',
};

/** What is done with a part of setting up by whoever sets it up. */
export const setupOperations = ['add', 'edit', 'delete'] as const satisfies readonly Operation[];
export type SetupOperation = (typeof setupOperations)[number];

/** Whether one reach goes further than another. */
export const isWider = (one: Reach, other: Reach): boolean => reaches.indexOf(one) > reaches.indexOf(other);

/** The widest of some reaches; none of none. */
export const widest = (all: readonly Reach[]): Reach =>
  all.reduce((most, reach) => (isWider(reach, most) ? reach : most), 'none');
