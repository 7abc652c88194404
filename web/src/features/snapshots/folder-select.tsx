import { useQuery } from '@tanstack/react-query';
import { Button, Input, Select } from 'antd';
import { FolderPlus } from 'lucide-react';
import { useState } from 'react';
import { useWrite } from '../../platform/api/use-write';
import { inOrderOfTree, pathOfFolder, treeOf } from './folder-tree';
import { keptFolders } from './queries';

interface Props {
  value: number | undefined;
  onChange: (folder: number) => void;
}

/** Chooses a folder by where it lies, or makes a new one that only oneself sees. */
export function FolderSelect({ value, onChange }: Props) {
  const { data: folders = [] } = useQuery(keptFolders);
  const [name, setName] = useState('');
  const [isOpen, setOpen] = useState(false);
  const write = useWrite<{ id: number }>();
  const make = () =>
    write.mutate(
      { method: 'POST', path: '/folders', body: { name: name.trim(), sharing: 'private' } },
      {
        onSuccess: ({ value: made }) => {
          setName('');
          setOpen(false);
          onChange(made.id);
        },
      },
    );
  return (
    <Select
      aria-label="Folder"
      showSearch={{ optionFilterProp: 'label' }}
      placeholder="Choose or make a folder"
      open={isOpen}
      onOpenChange={setOpen}
      notFoundContent={folders.length === 0 ? 'No folder yet' : 'No folder of that name'}
      value={value}
      onChange={onChange}
      options={inOrderOfTree(treeOf(folders)).map(({ folder }) => ({
        value: folder.id,
        label: pathOfFolder(folder, folders),
      }))}
      popupRender={(menu) => (
        <>
          {menu}
          <div className="folder-new">
            <Input
              aria-label="Name of a new folder"
              placeholder="A new folder"
              maxLength={80}
              value={name}
              onChange={(event) => setName(event.target.value)}
              onKeyDown={(event) => event.stopPropagation()}
              onPressEnter={() => name.trim() && make()}
            />
            <Button
              type="text"
              icon={<FolderPlus size={15} />}
              disabled={name.trim() === '' || undefined}
              loading={write.isPending}
              onClick={make}
            >
              Make it
            </Button>
          </div>
        </>
      )}
    />
  );
}
