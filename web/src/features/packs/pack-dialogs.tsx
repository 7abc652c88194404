import { type FrozenPackAnswer, type Pack, type Snapshot } from '@zawn/core';
import { DatePicker, Form, Input, Modal } from 'antd';
import dayjs from 'dayjs';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { ApiProblem } from '../../platform/api/client';
import { useWrite } from '../../platform/api/use-write';
import { AskOne } from '../../platform/frame/ask-one';
import { useSession } from '../../platform/sessions/session';
import { SeenByField } from '../snapshots/freeze-dialog';
import { FolderSelect } from '../snapshots/folder-select';

/** Asks for the day of the meeting. */
export function DayDialog({
  day,
  save,
  close,
}: {
  day: string | null;
  save: (day: string | null) => void;
  close: () => void;
}) {
  return (
    <AskOne title="Day of the meeting" before={day} save={save} close={close}>
      {(chosen, set) => (
        <DatePicker
          className="wide"
          aria-label="Day of the meeting"
          value={chosen ? dayjs(chosen) : null}
          onChange={(next) => set(next ? next.format('YYYY-MM-DD') : null)}
        />
      )}
    </AskOne>
  );
}

/** Freezes the reports of a pack into a folder: from then on it shows what the meeting saw. */
export function FreezePack({ pack, close }: { pack: Pack; close: () => void }) {
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
export function NextPack({ pack, close }: { pack: Pack; close: () => void }) {
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
