import { Button, Dropdown } from 'antd';
import { Download } from 'lucide-react';
import { useNotices } from '../../platform/api/use-write';

/** The files that figures are taken out as. */
export const figureFiles = [
  { key: 'xlsx', label: 'Workbook, XLSX' },
  { key: 'csv', label: 'Figures, CSV' },
  { key: 'pdf', label: 'Pages, PDF' },
] as const;

interface Props {
  files: readonly { key: string; label: string }[];
  take: (key: string) => Promise<void>;
}

/** Offers files to take out; says what went wrong where one could not be made. */
export function ExportButton({ files, take }: Props) {
  const { complain } = useNotices();
  return (
    <Dropdown
      trigger={['click']}
      menu={{ items: [...files], onClick: ({ key }) => void take(key).catch(complain) }}
    >
      <Button icon={<Download size={14} />}>Export</Button>
    </Dropdown>
  );
}
