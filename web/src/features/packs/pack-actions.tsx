import { type Pack, type PackDesign } from '@zawn/core';
import { App, Button, Dropdown, type MenuProps } from 'antd';
import { Download, Ellipsis, Snowflake } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { SaveDialog } from '../../kernel/views/save-dialog';
import { useWrite } from '../../platform/api/use-write';
import { useSession } from '../../platform/sessions/session';
import { KeepPack } from './keep-pack';
import { DayDialog, FreezePack, NextPack } from './pack-dialogs';
import { PackPdf } from './pack-pdf';

interface Props {
  pack: Pack;
  design: PackDesign;
  isMine: boolean;
}

/** What can be done with a pack that is kept. */
export function PackActions({ pack, design, isMine }: Props) {
  const { modal } = App.useApp();
  const { policy } = useSession();
  const write = useWrite();
  const navigate = useNavigate();
  const [dialog, setDialog] = useState<'rename' | 'day' | 'copy' | 'freeze' | 'next' | 'pdf'>();
  const close = () => setDialog(undefined);
  const path = `/packs/${pack.id}`;
  const { version } = pack;
  const isLive = design.pages.some(({ kind }) => kind === 'report');
  const mayFreeze = isMine && isLive && policy.allows('snapshot', 'add');
  const items: MenuProps['items'] = [
    { key: 'next', label: 'Begin the next meeting’s pack…' },
    { key: 'copy', label: 'Save a copy of my own…' },
    ...(isMine
      ? [
          { key: 'rename', label: 'Rename and share…' },
          { key: 'day', label: 'Day of the meeting…' },
        ]
      : []),
    { key: 'link', label: 'Copy a link' },
    ...(isMine
      ? [{ type: 'divider' as const }, { key: 'delete', label: 'Delete the pack…', danger: true }]
      : []),
  ];
  const act = (key: string) => {
    if (key === 'link') void navigator.clipboard.writeText(location.href);
    else if (key === 'delete')
      void modal.confirm({
        title: `Delete the meeting pack “${pack.name}”?`,
        content: 'What its pages show stays, and so does what was noted in it. This can be undone.',
        okText: 'Delete pack',
        okButtonProps: { danger: true },
        onOk: () =>
          write.mutate({ method: 'DELETE', path, version }, { onSuccess: () => void navigate('/packs') }),
      });
    else setDialog(key as typeof dialog);
  };
  return (
    <>
      {mayFreeze && (
        <Button icon={<Snowflake size={14} />} onClick={() => setDialog('freeze')}>
          Freeze
        </Button>
      )}
      <Button icon={<Download size={14} />} onClick={() => setDialog('pdf')} loading={dialog === 'pdf'}>
        PDF
      </Button>
      <Dropdown trigger={['click']} menu={{ items, onClick: ({ key }) => act(key) }}>
        <Button icon={<Ellipsis size={16} />} aria-label="Pack actions" />
      </Dropdown>
      {dialog === 'pdf' && <PackPdf pack={pack} design={design} done={close} />}
      {dialog === 'rename' && (
        <SaveDialog
          title="Rename and share the pack"
          action="Save pack"
          name={pack.name}
          sharing={pack.sharing}
          teams={pack.teams ?? []}
          existing={{ path, version }}
          onSaved={() => undefined}
          close={close}
        />
      )}
      {dialog === 'copy' && (
        <KeepPack title="Save a copy of my own" name={`${pack.name}, copy`} design={design} close={close} />
      )}
      {dialog === 'day' && (
        <DayDialog
          day={pack.meetsOn}
          save={(meetsOn) => write.mutate({ method: 'PATCH', path, version, body: { meetsOn } })}
          close={close}
        />
      )}
      {dialog === 'freeze' && <FreezePack pack={pack} close={close} />}
      {dialog === 'next' && <NextPack pack={pack} close={close} />}
    </>
  );
}
