import { ListPage } from '../records/list-page';
import { type Column } from '../records/record-table';
import { type Preset } from '../questions/use-list-question';

const columns: Column[] = [
  { field: 'name', width: 200 },
  { field: 'industry', width: 110 },
  { field: 'city', width: 120 },
  { field: 'country', width: 110 },
  { field: 'domain', width: 210 },
  { field: 'relationship', width: 90 },
  { field: 'owner', width: 130 },
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
      object="account"
      columns={columns}
      presets={presets}
      sort={byName}
      empty="The organisations you sell to stand here."
    />
  );
}
