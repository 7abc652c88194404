import { columnsOf, type Design, type ExportRequest, type Selection } from '@zawn/core';
import { Button, Dropdown } from 'antd';
import { Download } from 'lucide-react';
import { download } from '../../platform/api/client';
import { useNotices } from '../../platform/api/use-write';

interface Props {
  design: Design;
  /** The marked rows; everything shown when left out. */
  selection?: Selection;
  size?: 'small';
}

/** Takes what is on the screen out as a file. */
export function ExportMenu({ design, selection, size }: Props) {
  const { complain } = useNotices();
  const { object } = design.question;
  const items = [
    { key: 'xlsx shown', label: 'As shown, XLSX' },
    { key: 'csv shown', label: 'As shown, CSV' },
    { key: 'xlsx all', label: 'All fields, XLSX' },
    { key: 'csv all', label: 'All fields, CSV' },
    ...(object === 'contact' ? [{ key: 'vcard all', label: 'vCards' }] : []),
  ];
  const take = (key: string) => {
    const [format, fields] = key.split(' ') as [ExportRequest['format'], ExportRequest['fields']];
    const question = { ...design.question, columns: columnsOf(design) };
    const request: ExportRequest = {
      design: { ...design, question },
      format,
      fields,
      ...(selection ? { selection } : {}),
    };
    download('/exports', request).catch(complain);
  };
  return (
    <Dropdown trigger={['click']} menu={{ items, onClick: ({ key }) => take(key) }}>
      <Button size={size} icon={<Download size={14} />}>
        Export
      </Button>
    </Dropdown>
  );
}
