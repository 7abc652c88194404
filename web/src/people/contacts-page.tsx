import { ListPage } from '../records/list-page';
import { type Column } from '../records/record-table';
import { byName, relationshipPresets } from './relationship-presets';

const columns: Column[] = [
  { field: 'name', width: 150 },
  { field: 'account', width: 200 },
  { field: 'role', width: 140 },
  { field: 'email', width: 230 },
  { field: 'phone', width: 120 },
  { field: 'relationship', width: 90 },
  { field: 'owner', width: 120 },
];

export function Component() {
  return (
    <ListPage
      object="contact"
      columns={columns}
      presets={relationshipPresets}
      sort={byName}
      empty="The people you deal with stand here."
    />
  );
}
