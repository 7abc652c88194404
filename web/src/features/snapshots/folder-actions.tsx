import { useQuery } from '@tanstack/react-query';
import { type Folder } from '@zawn/core';
import { App, Button, Dropdown, Select, type MenuProps } from 'antd';
import { Ellipsis } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { SaveDialog } from '../../kernel/views/save-dialog';
import { useWrite } from '../../platform/api/use-write';
import { AskOne } from '../../platform/frame/ask-one';
import { useSession } from '../../platform/sessions/session';
import { inOrderOfTree, pathOfFolder, treeOf } from './folder-tree';
import { keptFolders } from './queries';

const TOP = 0;

/** What can be done with a folder that is one's own to change. */
export function FolderActions({ folder }: { folder: Folder }) {
  const { policy } = useSession();
  const { modal } = App.useApp();
  const write = useWrite();
  const navigate = useNavigate();
  const { data: folders = [] } = useQuery(keptFolders);
  const [dialog, setDialog] = useState<'rename' | 'move'>();
  if (!policy.mayChangeShared('folder', folder)) return null;
  const path = `/folders/${folder.id}`;
  const remove = () =>
    void modal.confirm({
      title: `Delete the folder “${folder.name}”?`,
      content: 'It can be deleted while nothing is in it.',
      okText: 'Delete folder',
      okButtonProps: { danger: true },
      onOk: () =>
        write.mutate(
          { method: 'DELETE', path, version: folder.version },
          { onSuccess: () => void navigate('/snapshots') },
        ),
    });
  const items: MenuProps['items'] = [
    { key: 'rename', label: 'Rename and share…' },
    { key: 'move', label: 'Move to another folder…' },
    { type: 'divider' },
    { key: 'delete', label: 'Delete the folder…', danger: true },
  ];
  return (
    <>
      <Dropdown
        trigger={['click']}
        menu={{
          items,
          onClick: ({ key }) => (key === 'delete' ? remove() : setDialog(key as 'rename' | 'move')),
        }}
      >
        <Button icon={<Ellipsis size={16} />} aria-label={`What to do with “${folder.name}”`} />
      </Dropdown>
      {dialog === 'rename' && (
        <SaveDialog
          title="Rename and share the folder"
          action="Save folder"
          name={folder.name}
          sharing={folder.sharing}
          teams={folder.teams ?? []}
          existing={{ path, version: folder.version }}
          onSaved={() => undefined}
          close={() => setDialog(undefined)}
        />
      )}
      {dialog === 'move' && (
        <MoveDialog
          title={`Move the folder “${folder.name}”`}
          at={folder.parent ?? TOP}
          options={[
            { value: TOP, label: 'At the top' },
            ...inOrderOfTree(treeOf(folders))
              .filter((each) => each.folder.id !== folder.id)
              .map((each) => ({ value: each.folder.id, label: pathOfFolder(each.folder, folders) })),
          ]}
          move={(to) =>
            write.mutate({
              method: 'PATCH',
              path,
              version: folder.version,
              body: { parent: to === TOP ? null : to },
            })
          }
          close={() => setDialog(undefined)}
        />
      )}
    </>
  );
}

/** Asks for the folder that something is moved to. */
export function MoveDialog({
  title,
  at,
  options,
  move,
  close,
}: {
  title: string;
  at: number;
  options: { value: number; label: string }[];
  move: (to: number) => void;
  close: () => void;
}) {
  return (
    <AskOne title={title} action="Move" before={at} save={move} close={close}>
      {(to, set) => (
        <>
          <Select
            aria-label="Folder"
            className="move-to"
            showSearch={{ optionFilterProp: 'label' }}
            value={to}
            onChange={set}
            options={options}
          />
          <p className="second">Who sees the folder sees what lies in it.</p>
        </>
      )}
    </AskOne>
  );
}
