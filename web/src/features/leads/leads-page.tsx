import { Button } from 'antd';
import { Upload } from 'lucide-react';
import { useNavigate } from 'react-router';
import { ViewPage } from '../../kernel/views/view-page';

export function Component() {
  const navigate = useNavigate();
  return (
    <ViewPage
      object="lead"
      empty="Leads you capture stand here."
      tools={
        <Button icon={<Upload size={14} />} onClick={() => void navigate('/imports')}>
          Import
        </Button>
      }
    />
  );
}
