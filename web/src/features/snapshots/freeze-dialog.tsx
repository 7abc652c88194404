import { type ReportDesign, type Rhythm, type Snapshot, type SnapshotPlan } from '@zawn/core';
import { Form, Input, Modal, Radio, Segmented } from 'antd';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { ApiProblem } from '../../platform/api/client';
import { useWrite } from '../../platform/api/use-write';
import { date } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import { FolderSelect } from './folder-select';
import { RhythmFields } from './rhythm-fields';
import './snapshots.css';

interface Props {
  design: ReportDesign;
  name: string;
  about: string;
  /** The kept report that it is. */
  report?: number;
  close: () => void;
}

/** Who sees how much of a snapshot. */
export function SeenByField({
  value,
  onChange,
}: {
  value: Snapshot['seenBy'];
  onChange: (seenBy: Snapshot['seenBy']) => void;
}) {
  return (
    <Form.Item label="What it shows">
      <Radio.Group
        value={value}
        onChange={(event) => onChange(event.target.value as Snapshot['seenBy'])}
        options={[
          { value: 'each', label: 'To each reader, the records that they see' },
          { value: 'whole', label: 'To everyone who sees the folder, all of it' },
        ]}
      />
    </Form.Item>
  );
}

/** Freezes a report as it stands, or has it frozen again and again. */
export function FreezeDialog({ design, name: reportName, about, report, close }: Props) {
  const { today } = useSession();
  const [when, setWhen] = useState<'now' | 'schedule'>('now');
  const [name, setName] = useState(`${reportName}, ${date(today)}`);
  const [planName, setPlanName] = useState(reportName.slice(0, 80));
  const [folder, setFolder] = useState<number>();
  const [seenBy, setSeenBy] = useState<Snapshot['seenBy']>('each');
  const [rhythm, setRhythm] = useState<Rhythm>({ every: 'month', working: 'last', at: '18:00' });
  const [complaint, setComplaint] = useState<string>();
  const write = useWrite<Snapshot | SnapshotPlan>({ quiet: true });
  const navigate = useNavigate();
  const isNow = when === 'now';
  const said = isNow ? name : planName;
  const save = () => {
    const common = { folder, seenBy, ...(about ? { about } : {}) };
    write.mutate(
      isNow
        ? { method: 'POST', path: '/snapshots/freeze', body: { ...common, name: name.trim(), design } }
        : {
            method: 'POST',
            path: '/snapshot-plans',
            body: { ...common, ...rhythm, name: planName.trim(), design: JSON.stringify(design), report },
          },
      {
        onSuccess: ({ value }) => {
          close();
          void navigate(isNow ? `/snapshots/${value.id}` : `/snapshots?folder=${value.folder}`);
        },
        onError: (error) =>
          setComplaint(error instanceof ApiProblem ? error.message : 'This could not be frozen. Try again.'),
      },
    );
  };
  return (
    <Modal
      open
      title="Freeze this report"
      okText={isNow ? 'Freeze it' : 'Save schedule'}
      onOk={save}
      onCancel={close}
      okButtonProps={{
        disabled: said.trim() === '' || folder === undefined || undefined,
        loading: write.isPending,
      }}
      width={460}
    >
      <Form layout="vertical" className="freeze-form">
        <Segmented
          aria-label="When"
          value={when}
          onChange={setWhen}
          options={[
            { value: 'now', label: 'Now' },
            { value: 'schedule', label: 'On a schedule' },
          ]}
        />
        {complaint && (
          <p className="left-out" role="alert">
            {complaint}
          </p>
        )}
        <Form.Item label="Name" htmlFor="freeze-name">
          <Input
            id="freeze-name"
            autoFocus
            maxLength={isNow ? 120 : 80}
            value={said}
            onChange={(event) => (isNow ? setName : setPlanName)(event.target.value)}
          />
        </Form.Item>
        {!isNow && (
          <Form.Item label="When">
            <RhythmFields rhythm={rhythm} onChange={setRhythm} />
          </Form.Item>
        )}
        <Form.Item label="Folder">
          <FolderSelect value={folder} onChange={setFolder} />
        </Form.Item>
        <SeenByField value={seenBy} onChange={setSeenBy} />
        <p className="second">
          The figures and every record behind them are kept as they are and never change.
          {!isNow && ' The report is kept as it asks now: changing it later does not change the schedule.'}
        </p>
      </Form>
    </Modal>
  );
}
