import { useQueryClient } from '@tanstack/react-query';
import { type AnyRecord } from '@zawn/core';
import { Button, Popover } from 'antd';
import { BookmarkPlus, MessageSquarePlus, Pause, Play } from 'lucide-react';
import { useRef, useState } from 'react';
import { call } from '../../platform/api/client';
import { pathOf, RECORDS } from '../../platform/api/queries';
import { useNotices } from '../../platform/api/use-write';
import { nearDate, timeIn } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import './recording.css';
import { lazyPart } from '../../platform/frame/lazy-part';

const ListDialog = lazyPart(async () => (await import('../bulk/list-dialog')).ListDialog);
const Remarks = lazyPart(async () => (await import('./remarks')).Remarks);

const SPEEDS = [1, 1.25, 1.5, 2];
/** Arrow keys jump so many seconds. */
const JUMP = 5;

/** A recording, played where it stands: begun and stopped, from any place in it, and faster. Fetched when it is begun. */
export function Recording({ activity }: { activity: AnyRecord }) {
  const { me, person, today, dayOf } = useSession();
  const { complain } = useNotices();
  const queryClient = useQueryClient();
  const audio = useRef<HTMLAudioElement>(null);
  const [isPlaying, setPlaying] = useState(false);
  const [at, setAt] = useState(0);
  const [length, setLength] = useState(0);
  const [speed, setSpeed] = useState(1);
  const [shown, setShown] = useState<'remarks' | 'lists'>();
  const { recording, remarked, heardAt, heardBy } = activity;
  if (typeof recording !== 'number') return null;
  const name = String(activity.name);
  const toggle = () => {
    if (audio.current?.paused)
      void audio.current
        .play()
        .catch(() =>
          complain(new Error('The recording cannot be played here. Try again, or in another browser.')),
        );
    else audio.current?.pause();
  };
  const jump = (to: number) => {
    if (audio.current) audio.current.currentTime = to;
    setAt(to);
  };
  const faster = () => {
    const next = SPEEDS[(SPEEDS.indexOf(speed) + 1) % SPEEDS.length];
    if (audio.current) audio.current.playbackRate = next;
    setSpeed(next);
  };
  /** That somebody else than who called listened is noted, without a word. */
  const hear = async () => {
    if (activity.owner === me.id || heardBy === me.id) return;
    await call('POST', `${pathOf('activity', activity.id)}/heard`);
    await queryClient.invalidateQueries({ queryKey: [RECORDS] });
  };
  const heard = heardAt
    ? `Heard by ${person(Number(heardBy))?.name ?? 'somebody'}, ${nearDate(dayOf(String(heardAt)), today)}`
    : activity.owner === me.id
      ? ''
      : 'Not heard yet';
  return (
    // In a table it is no click on its row.
    <div className="recording-part" onClick={(event) => event.stopPropagation()}>
      <div className="recording" role="group" aria-label={`Recording: ${name}`}>
        <audio
          ref={audio}
          src={`/api/v1${pathOf('file', recording)}/content?show`}
          preload="none"
          onPlay={() => {
            setPlaying(true);
            void hear().catch(complain);
          }}
          onPause={() => setPlaying(false)}
          onLoadedMetadata={({ currentTarget }) => setLength(currentTarget.duration)}
          onTimeUpdate={({ currentTarget }) => setAt(currentTarget.currentTime)}
        />
        <Button
          size="small"
          icon={isPlaying ? <Pause size={13} /> : <Play size={13} />}
          onClick={toggle}
          aria-label={isPlaying ? 'Pause' : 'Play'}
        />
        <input
          type="range"
          min={0}
          max={Math.ceil(length)}
          step={JUMP}
          value={at}
          disabled={length === 0}
          onChange={({ target }) => jump(Number(target.value))}
          aria-label="Place in the recording"
          aria-valuetext={timeIn(at)}
        />
        <span className="second recording-time">
          {length > 0 ? `${timeIn(at)} of ${timeIn(length)}` : 'Recording'}
        </span>
        <Button size="small" type="text" onClick={faster} aria-label={`${speed}× the speed`}>
          {speed}×
        </Button>
        <Popover
          open={shown === 'remarks'}
          onOpenChange={(isOpen) => setShown(isOpen ? 'remarks' : undefined)}
          trigger="click"
          placement="bottomRight"
          arrow={false}
          destroyOnHidden
          content={
            // What is pressed and clicked in here is not meant for the row below it.
            <div
              onClick={(event) => event.stopPropagation()}
              onDoubleClick={(event) => event.stopPropagation()}
              onKeyDown={(event) => {
                event.stopPropagation();
                if (event.key === 'Escape') setShown(undefined);
              }}
            >
              <Remarks activity={activity} at={at} jump={jump} />
            </div>
          }
        >
          <Button
            size="small"
            type="text"
            icon={<MessageSquarePlus size={13} />}
            aria-expanded={shown === 'remarks'}
            aria-label={`${remarked ? `${String(remarked)} remarks` : 'Remarks'} on the recording: ${name}`}
            title="Remarks"
          >
            {remarked ? String(remarked) : ''}
          </Button>
        </Popover>
        <Button
          size="small"
          type="text"
          icon={<BookmarkPlus size={13} />}
          onClick={() => setShown('lists')}
          aria-label={`Worth hearing: put ${name} on a list`}
          title="Worth hearing: put on a list"
        />
      </div>
      {heard && <span className={`second ${heardAt ? '' : 'recording-unheard'}`}>{heard}</span>}
      {shown === 'lists' && (
        <ListDialog
          object="activity"
          what={`“${name}”`}
          selection={{ ids: [activity.id] }}
          onDone={() => undefined}
          close={() => setShown(undefined)}
        />
      )}
    </div>
  );
}
