import { type Preset } from '../questions/use-list-question';

const having = (relationship: string): Preset['where'] => ({
  field: 'relationship',
  is: 'anyOf',
  value: [relationship],
});

/** The parts of a list of people or organisations: everyone, those who bought, those who might. */
export const relationshipPresets: Preset[] = [
  { key: 'all', label: 'All' },
  { key: 'customers', label: 'Customers', where: having('customer') },
  { key: 'prospects', label: 'Prospects', where: having('prospect') },
];

export const byName = { field: 'name' };
