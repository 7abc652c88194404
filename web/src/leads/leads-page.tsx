import { Button } from 'antd';
import { Upload } from 'lucide-react';
import { useNavigate } from 'react-router';
import { ListPage } from '../records/list-page';
import { type Column } from '../records/record-table';
import { type Preset } from '../questions/use-list-question';

const columns: Column[] = [
  { field: 'name', width: 150 },
  { field: 'organisation', width: 184 },
  { field: 'status', width: 122 },
  { field: 'interest', width: 102 },
  { field: 'source', width: 112 },
  { field: 'budget', width: 80 },
  { field: 'owner', width: 112 },
  { field: 'createdAt', width: 130, label: 'Captured' },
];

const presets: Preset[] = [
  {
    key: 'open',
    label: 'To work',
    where: { field: 'status', is: 'noneOf', value: ['converted', 'disqualified'] },
  },
  { key: 'converted', label: 'Converted', where: { field: 'status', is: 'anyOf', value: ['converted'] } },
  { key: 'disqualified', label: 'Let go', where: { field: 'status', is: 'anyOf', value: ['disqualified'] } },
  { key: 'all', label: 'All' },
];

const newestFirst = { field: 'createdAt', descending: true };

export function Component() {
  const navigate = useNavigate();
  return (
    <ListPage
      object="lead"
      columns={columns}
      presets={presets}
      sort={newestFirst}
      empty="Leads you capture stand here."
      tools={
        <Button icon={<Upload size={14} />} onClick={() => void navigate('/imports')}>
          Import
        </Button>
      }
    />
  );
}
