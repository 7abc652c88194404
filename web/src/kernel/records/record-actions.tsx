import { objectType, type AnyRecord, type Operation, type SubjectKey } from '@zawn/core';
import { App, Dropdown } from 'antd';
import { Ellipsis, Share2, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { lazyPart } from '../../platform/frame/lazy-part';

const ShareDialog = lazyPart(async () => (await import('./share-dialog')).default);

interface Props {
  object: SubjectKey;
  record: AnyRecord;
  may: readonly Operation[];
  /** Leaves the record, which has been deleted. */
  leave: () => void;
}

/** What is done with a record as a whole, as far as one may: sharing and deleting it. */
export function RecordActions({ object, record, may, leave }: Props) {
  const { modal } = App.useApp();
  const [isSharing, setSharing] = useState(false);
  const write = useWrite();
  const { label } = objectType(object);
  const remove = () => {
    modal.confirm({
      title: `Delete “${String(record.name)}”?`,
      content: 'It goes to the bin, and this can be undone.',
      okText: `Delete ${label.toLowerCase()}`,
      okButtonProps: { danger: true },
      onOk: () =>
        write
          .mutateAsync({ method: 'DELETE', path: pathOf(object, record.id), version: record.version })
          .then(leave, () => undefined),
    });
  };
  const items = [
    {
      key: 'share',
      needs: 'edit' as const,
      label: `Share ${label.toLowerCase()} …`,
      icon: <Share2 size={14} />,
      onClick: () => setSharing(true),
    },
    {
      key: 'delete',
      needs: 'delete' as const,
      label: `Delete ${label.toLowerCase()}`,
      icon: <Trash2 size={14} />,
      danger: true,
      onClick: remove,
    },
  ].flatMap(({ needs, ...item }) => (may.includes(needs) ? [item] : []));
  if (items.length === 0) return null;
  return (
    <>
      <Dropdown trigger={['click']} menu={{ items }}>
        <button type="button" className="icon-button" aria-label="More">
          <Ellipsis size={16} aria-hidden />
        </button>
      </Dropdown>
      {isSharing && <ShareDialog object={object} record={record} close={() => setSharing(false)} />}
    </>
  );
}
