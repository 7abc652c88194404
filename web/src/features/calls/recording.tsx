import { Button } from 'antd';
import { Pause, Play } from 'lucide-react';
import { useRef, useState } from 'react';
import { pathOf } from '../../platform/api/queries';
import './recording.css';

const SPEEDS = [1, 1.25, 1.5, 2];
/** Arrow keys jump so many seconds. */
const JUMP = 5;

/** `1:05` */
const clock = (seconds: number) =>
  `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`;

/** A recording, played where it stands: begun and stopped, from any place in it, and faster. Fetched when it is begun. */
export function Recording({ file, label }: { file: number; label: string }) {
  const audio = useRef<HTMLAudioElement>(null);
  const [isPlaying, setPlaying] = useState(false);
  const [at, setAt] = useState(0);
  const [length, setLength] = useState(0);
  const [speed, setSpeed] = useState(1);
  const toggle = () => {
    if (audio.current?.paused) void audio.current.play();
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
  return (
    <div className="recording" role="group" aria-label={label}>
      <audio
        ref={audio}
        src={`/api/v1${pathOf('file', file)}/content?show`}
        preload="none"
        onPlay={() => setPlaying(true)}
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
        aria-valuetext={clock(at)}
      />
      <span className="second">{length > 0 ? `${clock(at)} of ${clock(length)}` : 'Recording'}</span>
      <Button size="small" type="text" onClick={faster} aria-label={`Speed: ${speed} times`}>
        {speed}×
      </Button>
    </div>
  );
}
