import { ListPage } from '../records/list-page';
import { type Column } from '../records/record-table';
import { byName, relationshipPresets } from './relationship-presets';

const columns: Column[] = [
  { field: 'name', width: 200 },
  { field: 'industry', width: 110 },
  { field: 'city', width: 120 },
  { field: 'country', width: 110 },
  { field: 'domain', width: 210 },
  { field: 'relationship', width: 90 },
  { field: 'owner', width: 130 },
];

export function Component() {
  return (
    <ListPage
      object="account"
      columns={columns}
      presets={relationshipPresets}
      sort={byName}
      empty="The organisations you sell to stand here."
    />
  );
}
