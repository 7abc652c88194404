import { type FrozenPackAnswer, type Pack, type PackDesign, type Snapshot } from '@zawn/core';
import { App, Button, DatePicker, Dropdown, Form, Input, Modal, type MenuProps } from 'antd';
import dayjs from 'dayjs';
import { Download, Ellipsis, Snowflake } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { SaveDialog } from '../../kernel/views/save-dialog';
import { ApiProblem } from '../../platform/api/client';
import { useWrite } from '../../platform/api/use-write';
import { useSession } from '../../platform/sessions/session';
import { SeenByField } from '../snapshots/freeze-dialog';
import { FolderSelect } from '../snapshots/folder-select';
import { KeepPack } from './keep-pack';
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

function DayDialog({
  day,
  save,
  close,
}: {
  day: string | null;
  save: (day: string | null) => void;
  close: () => void;
}) {
  const [chosen, setChosen] = useState(day);
  return (
    <Modal
      open
      title="Day of the meeting"
      okText="Save"
      onOk={() => {
        if (chosen !== day) save(chosen);
        close();
      }}
      onCancel={close}
      width={360}
    >
      <DatePicker
        className="wide"
        aria-label="Day of the meeting"
        value={chosen ? dayjs(chosen) : null}
        onChange={(next) => setChosen(next ? next.format('YYYY-MM-DD') : null)}
      />
    </Modal>
  );
}

/** Freezes the reports of a pack into a folder: from then on it shows what the meeting saw. */
function FreezePack({ pack, close }: { pack: Pack; close: () => void }) {
  const [folder, setFolder] = useState<number>();
  const [seenBy, setSeenBy] = useState<Snapshot['seenBy']>('each');
  const [complaint, setComplaint] = useState<string>();
  const write = useWrite<FrozenPackAnswer>({ quiet: true });
  return (
    <Modal
      open
      title={`Freeze “${pack.name}”`}
      okText="Freeze its reports"
      okButtonProps={{ disabled: folder === undefined, loading: write.isPending }}
      onOk={() =>
        write.mutate(
          { method: 'POST', path: `/packs/${pack.id}/freeze`, body: { folder, seenBy } },
          {
            onSuccess: close,
            onError: (error) =>
              setComplaint(
                error instanceof ApiProblem ? error.message : 'This could not be frozen. Try again.',
              ),
          },
        )
      }
      onCancel={close}
      width={460}
    >
      <Form layout="vertical" className="freeze-form">
        {complaint && (
          <p className="left-out" role="alert">
            {complaint}
          </p>
        )}
        <p>
          Every live report of the pack becomes a snapshot in the folder, and the pack shows those. Dashboards
          stay live. The next meeting’s pack is live again.
        </p>
        <Form.Item label="Folder">
          <FolderSelect value={folder} onChange={setFolder} />
        </Form.Item>
        <SeenByField value={seenBy} onChange={setSeenBy} />
      </Form>
    </Modal>
  );
}

/** Makes the pack for the next meeting from this one, with this one's decisions in front. */
function NextPack({ pack, close }: { pack: Pack; close: () => void }) {
  const { today } = useSession();
  const [name, setName] = useState(pack.name);
  const [day, setDay] = useState(
    dayjs(pack.meetsOn ?? today)
      .add(1, 'month')
      .format('YYYY-MM-DD'),
  );
  const write = useWrite<Pack>();
  const navigate = useNavigate();
  return (
    <Modal
      open
      title="Begin the next meeting’s pack"
      okText="Make it"
      okButtonProps={{ disabled: name.trim() === '', loading: write.isPending }}
      onOk={() =>
        write.mutate(
          { method: 'POST', path: `/packs/${pack.id}/next`, body: { name: name.trim(), meetsOn: day } },
          {
            onSuccess: ({ value }) => {
              close();
              void navigate(`/packs/${value.id}`);
            },
          },
        )
      }
      onCancel={close}
      width={430}
    >
      <Form layout="vertical">
        <Form.Item label="Name" htmlFor="next-name">
          <Input
            id="next-name"
            maxLength={80}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </Form.Item>
        <Form.Item label="Day of the meeting" htmlFor="next-day">
          <DatePicker
            id="next-day"
            className="wide"
            allowClear={false}
            value={dayjs(day)}
            onChange={(next) => next && setDay(next.format('YYYY-MM-DD'))}
          />
        </Form.Item>
        <p className="second">
          The same pages, live again, without the notes of this meeting. What was decided in it and what
          became of that stand in front.
        </p>
      </Form>
    </Modal>
  );
}
