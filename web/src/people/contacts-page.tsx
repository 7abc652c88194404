import { ListPage } from '../records/list-page';
import { type Column } from '../records/record-table';
import { type Preset } from '../questions/use-list-question';

const columns: Column[] = [
  { field: 'name', width: 150 },
  { field: 'account', width: 200 },
  { field: 'role', width: 140 },
  { field: 'email', width: 230 },
  { field: 'phone', width: 120 },
  { field: 'relationship', width: 90 },
  { field: 'owner', width: 120 },
];

const presets: Preset[] = [
  { key: 'all', label: 'All' },
  {
    key: 'customers',
    label: 'Customers',
    where: { field: 'relationship', is: 'anyOf', value: ['customer'] },
  },
  {
    key: 'prospects',
    label: 'Prospects',
    where: { field: 'relationship', is: 'anyOf', value: ['prospect'] },
  },
];

const byName = { field: 'name' };

export function Component() {
  return (
    <ListPage
      object="contact"
      columns={columns}
      presets={presets}
      sort={byName}
      empty="The people you deal with stand here."
    />
  );
}
