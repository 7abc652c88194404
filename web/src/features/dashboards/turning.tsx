import { dashboardDesignOf, readyDashboards, type DashboardDesign } from '@zawn/core';
import { useQuery } from '@tanstack/react-query';
import { Button, Checkbox, Modal, Select } from 'antd';
import { ArrowLeft, ArrowRight, Pause, Play, X } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { useShortcuts } from '../../platform/frame/shortcuts';
import { keptDashboards } from './queries';
import { rowFor, TileGrid } from './grid';
import { TileFrame } from './tile-frame';

export interface Turned {
  key: string;
  name: string;
  design: DashboardDesign;
}

const SECONDS = [10, 20, 30, 60, 120];

/** Every dashboard that can be shown in turn. */
export function useTurnable(): Turned[] {
  const { data: kept = [] } = useQuery(keptDashboards);
  return [
    ...kept.flatMap((each) => {
      const design = dashboardDesignOf(each);
      return design ? [{ key: String(each.id), name: each.name, design }] : [];
    }),
    ...readyDashboards,
  ];
}

/** Asks which dashboards are shown in turn, and for how long each. */
export function TurnDialog({
  first,
  begin,
  close,
}: {
  first: string;
  begin: (keys: readonly string[], seconds: number) => void;
  close: () => void;
}) {
  const all = useTurnable();
  const [chosen, setChosen] = useState<readonly string[]>([first]);
  const [seconds, setSeconds] = useState(30);
  return (
    <Modal
      open
      title="Full screen, in turn"
      okText="Begin"
      okButtonProps={{ disabled: chosen.length === 0 }}
      onOk={() => begin(chosen, seconds)}
      onCancel={close}
      width={430}
    >
      <p>
        Each for{' '}
        <Select
          aria-label="Seconds for each"
          value={seconds}
          onChange={setSeconds}
          options={SECONDS.map((value) => ({ value, label: `${value} seconds` }))}
        />
      </p>
      <Checkbox.Group
        className="turn-choice"
        value={[...chosen]}
        onChange={(keys: string[]) =>
          // In the order of the list, the one that is looked at first.
          setChosen([...keys].sort((a, b) => Number(b === first) - Number(a === first)))
        }
        options={all.map(({ key, name }) => ({ value: key, label: name }))}
      />
    </Modal>
  );
}

/** Room that the head takes of a screen. */
const HEAD = 96;

/** Dashboards one after the other over the whole screen, each as it begins and live. */
export function Turning({
  keys,
  seconds,
  close,
}: {
  keys: readonly string[];
  seconds: number;
  close: () => void;
}) {
  const all = useTurnable();
  const shown = keys.flatMap((key) => all.find((each) => each.key === key) ?? []);
  const [at, setAt] = useState(0);
  const [isPaused, setPaused] = useState(false);
  const [height, setHeight] = useState(window.innerHeight);
  const overlay = useRef<HTMLDivElement>(null);
  const turn = (by: 1 | -1) => setAt((before) => (before + by + shown.length) % Math.max(1, shown.length));
  useEffect(() => {
    const element = overlay.current;
    element?.focus();
    // Where the browser refuses, the page itself is covered all the same.
    element?.requestFullscreen().catch(() => undefined);
    const resize = () => setHeight(window.innerHeight);
    window.addEventListener('resize', resize);
    return () => {
      window.removeEventListener('resize', resize);
      if (document.fullscreenElement) void document.exitFullscreen();
    };
  }, []);
  useEffect(() => {
    if (isPaused || shown.length < 2) return;
    const timer = window.setInterval(() => setAt((before) => (before + 1) % shown.length), seconds * 1000);
    return () => window.clearInterval(timer);
  }, [isPaused, seconds, shown.length, at]);
  useShortcuts('In turn', [
    { keys: 'ArrowRight', does: 'The next dashboard', run: () => turn(1) },
    { keys: 'ArrowLeft', does: 'The dashboard before', run: () => turn(-1) },
    { keys: 'Space', does: 'Hold, or go on', run: () => setPaused(!isPaused) },
    { keys: 'Escape', does: 'Leave the full screen', run: close },
  ]);
  const current = shown.at(at);
  return (
    <div ref={overlay} className="turning" tabIndex={-1} role="region" aria-label="Dashboards in turn">
      <header className="turning-head">
        <h1 aria-live="polite">{current?.name ?? 'Nothing is left to show'}</h1>
        <span className="second">
          {shown.length > 1 && `${at + 1} of ${shown.length}`}
          {isPaused && ', held'}
        </span>
        <div className="page-tools">
          {shown.length > 1 && (
            <>
              <Button
                type="text"
                icon={<ArrowLeft size={16} />}
                aria-label="The dashboard before"
                onClick={() => turn(-1)}
              />
              <Button
                type="text"
                icon={isPaused ? <Play size={16} /> : <Pause size={16} />}
                aria-label={isPaused ? 'Go on' : 'Hold'}
                onClick={() => setPaused(!isPaused)}
              />
              <Button
                type="text"
                icon={<ArrowRight size={16} />}
                aria-label="The next dashboard"
                onClick={() => turn(1)}
              />
            </>
          )}
          <Button type="text" icon={<X size={16} />} aria-label="Leave the full screen" onClick={close} />
        </div>
      </header>
      <div className="turning-body">
        {current && (
          <TileGrid
            key={current.key}
            tiles={current.design.tiles}
            isArranging={false}
            row={rowFor(current.design.tiles, height - HEAD)}
            arrange={() => undefined}
            show={(tile) => (
              <TileFrame
                tile={tile}
                choice={current.design.choice ?? {}}
                isArranging={false}
                isAllSeen
                isBare
              />
            )}
          />
        )}
      </div>
    </div>
  );
}
