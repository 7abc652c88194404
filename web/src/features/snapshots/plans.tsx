import { useQuery } from '@tanstack/react-query';
import { type Folder, type Rhythm, type SnapshotPlan } from '@zawn/core';
import { App, Dropdown, Form, Modal } from 'antd';
import { CalendarClock, Ellipsis } from 'lucide-react';
import { useState } from 'react';
import { useWrite } from '../../platform/api/use-write';
import { clock, date } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import { SeenByField } from './freeze-dialog';
import { plansIn } from './queries';
import { RhythmFields } from './rhythm-fields';
import { planInWords } from './words';

/** The schedules by which snapshots come into a folder: when, what is next, and what went wrong. */
export function Plans({ folder }: { folder: Folder }) {
  const { data: plans = [] } = useQuery(plansIn(folder.id));
  if (plans.length === 0) return null;
  return (
    <section className="snapshot-plans" aria-label="Schedules">
      <h2>Taken on a schedule</h2>
      <ul>
        {plans.map((plan) => (
          <Plan key={plan.id} plan={plan} />
        ))}
      </ul>
    </section>
  );
}

function Plan({ plan }: { plan: SnapshotPlan }) {
  const { policy, person, dayOf, timeZone } = useSession();
  const { modal } = App.useApp();
  const write = useWrite();
  const [isChanging, setChanging] = useState(false);
  const path = `/snapshot-plans/${plan.id}`;
  const { version, name, nextAt, trouble, paused } = plan;
  const change = (body: object) => write.mutate({ method: 'PATCH', path, version, body });
  const remove = () =>
    void modal.confirm({
      title: `Delete the schedule “${name}”?`,
      content: 'The snapshots that it took stay.',
      okText: 'Delete schedule',
      okButtonProps: { danger: true },
      onOk: () => write.mutate({ method: 'DELETE', path, version }),
    });
  const actions: Record<string, () => void> = {
    change: () => setChanging(true),
    pause: () => change({ paused: !paused }),
    delete: remove,
  };
  return (
    <li>
      <CalendarClock size={15} aria-hidden />
      <div>
        <b>{name}</b> <span className="second">{person(plan.owner)?.name}’s</span>
        <p className="second">
          {planInWords(plan)}
          {paused ? '. Paused' : nextAt ? `. Next ${date(dayOf(nextAt))}, ${clock(nextAt, timeZone)}` : ''}
        </p>
        {trouble && <p className="left-out">{trouble}.</p>}
      </div>
      {policy.mayChangeShared('snapshotPlan', plan) && (
        <Dropdown
          trigger={['click']}
          menu={{
            items: [
              { key: 'change', label: 'Change when…' },
              { key: 'pause', label: paused ? 'Go on' : 'Pause' },
              { type: 'divider' },
              { key: 'delete', label: 'Delete the schedule…', danger: true },
            ],
            onClick: ({ key }) => actions[key](),
          }}
        >
          <button type="button" className="icon-button" aria-label={`What to do with “${name}”`}>
            <Ellipsis size={15} aria-hidden />
          </button>
        </Dropdown>
      )}
      {isChanging && <ChangePlan plan={plan} save={change} close={() => setChanging(false)} />}
    </li>
  );
}

function ChangePlan({
  plan,
  save,
  close,
}: {
  plan: SnapshotPlan;
  save: (body: object) => void;
  close: () => void;
}) {
  const { every, weekday, day, working, at, offDay } = plan as Rhythm;
  const [rhythm, setRhythm] = useState<Rhythm>({ every, weekday, day, working, at, offDay });
  const [seenBy, setSeenBy] = useState(plan.seenBy);
  return (
    <Modal
      open
      title={`When “${plan.name}” is taken`}
      okText="Save schedule"
      onOk={() => {
        save({ ...rhythm, seenBy });
        close();
      }}
      onCancel={close}
      width={460}
    >
      <Form layout="vertical">
        <RhythmFields rhythm={rhythm} onChange={setRhythm} />
        <SeenByField value={seenBy} onChange={setSeenBy} />
      </Form>
    </Modal>
  );
}
