import { useQueryClient } from '@tanstack/react-query';
import { kindName, type DashboardChoice, type DashboardDesign, type Tile } from '@zawn/core';
import { Button } from 'antd';
import { Plus } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { Link, useParams } from 'react-router';
import { useCalmUpdates } from '../../platform/api/live-updates';
import { moved } from '../../platform/frame/move-buttons';
import { useShortcuts } from '../../platform/frame/shortcuts';
import { Empty, Skeleton } from '../../platform/frame/states';
import { usePhone } from '../../platform/frame/use-phone';
import { useNotices } from '../../platform/api/use-write';
import { useSession } from '../../platform/sessions/session';
import { RecordsBeside } from '../reports/records-beside';
import '../reports/reports.css';
import { useBeside } from '../reports/use-beside';
import { AddTile, withTile } from './add-tile';
import { ChoiceBar } from './choice-bar';
import { DashboardActions } from './dashboard-actions';
import './dashboards.css';
import { stepped, TileGrid } from './grid';
import { TileFrame, type TileStep } from './tile-frame';
import { TilePanel } from './tile-panel';
import { TurnDialog, Turning } from './turning';
import { useChoice } from './use-choice';
import { useDashboard } from './use-dashboard';

/** Tiles are asked again at most this often, however much is written meanwhile. */
const BETWEEN_MS = 5000;
const NO_CHOICE: DashboardChoice = {};

/** A dashboard: what is chosen for all on top, then its tiles. Every figure opens its records beside them. */
export function Component() {
  const { key = 'new' } = useParams();
  // Another dashboard begins anew: nothing of the one before is open.
  return <DashboardPage key={key} at={key} />;
}

function DashboardPage({ at }: { at: string }) {
  const shown = useDashboard();
  const { base, design, change, isChanged, isLoading } = shown;
  const [choice, choose] = useChoice(design.choice ?? NO_CHOICE);
  const [isArranging, setArranging] = useState(base.kind === 'new');
  const [isAdding, setAdding] = useState(false);
  const [panel, setPanel] = useState<string>();
  const [turning, setTurning] = useState<'asked' | { keys: readonly string[]; seconds: number }>();
  const { print, isAllSeen } = usePrinting();
  const { beside, openBeside, close } = useBeside();
  const isPhone = usePhone();
  const { complain, say } = useNotices();
  const { person } = useSession();
  useCalmUpdates(BETWEEN_MS);
  useShortcuts('Dashboard', [
    { keys: 'a', does: 'Arrange the tiles', run: () => setArranging(!isArranging) },
    { keys: 'f', does: 'Full screen, in turn', run: () => setTurning('asked') },
  ]);
  if (base.kind === 'gone')
    return isLoading ? (
      <Skeleton rows={12} />
    ) : (
      <Empty title="This dashboard is gone, or is not shared with you.">
        <Link to="/dashboards">See all dashboards</Link>
      </Empty>
    );
  const { tiles } = design;
  const name =
    base.kind === 'ready' ? base.ready.name : base.kind === 'kept' ? base.dashboard.name : 'A new dashboard';
  const about =
    base.kind === 'ready' ? base.ready.about : base.kind === 'kept' ? (base.dashboard.about ?? '') : '';
  const arrange = (next: readonly Tile[]) => change({ ...design, tiles: next });
  const put = (next: DashboardDesign | undefined) => {
    if (next) change(next);
    else complain(new Error('This dashboard is full. Take a tile away first, or begin another one.'));
  };
  const remove = (tile: Tile) => {
    arrange(tiles.filter(({ key }) => key !== tile.key));
    if (panel === tile.key) setPanel(undefined);
    say('Took the tile away.', () => change(design));
  };
  const opened = tiles.find(({ key }) => key === panel);
  const side = opened ?? beside;
  const isChoiceKept = JSON.stringify(choice) === JSON.stringify(design.choice ?? NO_CHOICE);
  const frame = (tile: Tile) => (
    <TileFrame
      tile={tile}
      choice={choice}
      isArranging={isArranging && !isPhone}
      isAllSeen={isAllSeen}
      change={() => {
        close();
        setPanel(tile.key);
      }}
      remove={() => remove(tile)}
      step={(step: TileStep) => arrange(stepped(tiles, tile.key, step))}
    />
  );
  return (
    <div className={side ? 'report-page report-page-beside' : 'report-page'}>
      <div className="report dashboard">
        <header className="page-head view-head">
          <h1>{name}</h1>
          <span className="page-count" role="status">
            {base.kind === 'kept' && `${person(base.dashboard.owner)?.name ?? 'Somebody'}’s`}
            {base.kind === 'ready' && 'ready-made'}
            {isChanged && (base.kind === 'new' ? 'not saved' : ', changed')}
          </span>
          <div className="page-tools">
            {isArranging && (
              <Button type="text" icon={<Plus size={15} />} onClick={() => setAdding(true)}>
                Add a tile
              </Button>
            )}
            <Button aria-pressed={isArranging} onClick={() => setArranging(!isArranging)}>
              {isArranging ? 'Done arranging' : 'Arrange'}
            </Button>
            <DashboardActions
              shown={shown}
              name={name}
              about={about}
              home={at}
              nameOfTile={(key) => {
                const tile = tiles.find((each) => each.key === key);
                return tile?.title ?? (tile ? kindName(tile.kind) : 'a tile taken away');
              }}
              print={print}
              turn={() => setTurning('asked')}
              onSaved={() => setArranging(false)}
            />
          </div>
        </header>
        {about && <p className="report-about second">{about}</p>}
        <div className="dashboard-for-all">
          <ChoiceBar choice={choice} choose={choose} />
          {isArranging && !isChoiceKept && (
            <Button type="text" onClick={() => change({ ...design, choice })}>
              Begin with this choice
            </Button>
          )}
        </div>
        <div className="dashboard-body" onClickCapture={openBeside}>
          {tiles.length === 0 ? (
            <Empty title="No tiles yet.">
              <p>
                Reports, lists, how the pipeline moved, a note: each becomes a tile that follows what is
                chosen above.
              </p>
              <Button type="primary" icon={<Plus size={15} />} onClick={() => setAdding(true)}>
                Add the first tile
              </Button>
            </Empty>
          ) : isPhone ? (
            <div className="tiles-in-a-row">
              {tiles.map((tile) => (
                <div
                  key={tile.key}
                  {...(isDrawn(tile) ? { style: { height: Math.min(420, tile.at.h * 44) } } : {})}
                >
                  {frame(tile)}
                </div>
              ))}
            </div>
          ) : (
            <TileGrid tiles={tiles} isArranging={isArranging} arrange={arrange} show={frame} />
          )}
        </div>
      </div>
      {opened ? (
        <TilePanel
          tile={opened}
          at={tiles.indexOf(opened)}
          count={tiles.length}
          change={(next) => arrange(tiles.map((each) => (each.key === next.key ? next : each)))}
          move={(step) => arrange(moved(tiles, tiles.indexOf(opened), step))}
          close={() => setPanel(undefined)}
        />
      ) : (
        beside && <RecordsBeside question={beside} close={close} />
      )}
      {isAdding && (
        <AddTile
          title="Add a tile"
          pick={(content) => {
            put(withTile(design, content));
            setAdding(false);
            setArranging(true);
          }}
          close={() => setAdding(false)}
        />
      )}
      {turning === 'asked' && (
        <TurnDialog
          first={at}
          begin={(keys, seconds) => setTurning({ keys, seconds })}
          close={() => setTurning(undefined)}
        />
      )}
      {typeof turning === 'object' && <Turning {...turning} close={() => setTurning(undefined)} />}
    </div>
  );
}

/** Whether a tile is a drawing, which takes the height that it is given; what is read takes what it needs. */
const isDrawn = (tile: Tile) =>
  tile.kind === 'movement' || (tile.kind === 'report' && tile.shows === undefined);

/** How long a page waits for the last tile before it is printed as it is. */
const PATIENCE_MS = 15_000;

/** Prints once every tile has been read, those that have not come into view as well. */
function usePrinting() {
  const [isAllSeen, setAllSeen] = useState(false);
  const queryClient = useQueryClient();
  const begun = useRef(0);
  useEffect(() => {
    if (!isAllSeen || begun.current === 0) return;
    const timer = window.setInterval(() => {
      if (queryClient.isFetching() > 0 && Date.now() - begun.current < PATIENCE_MS) return;
      window.clearInterval(timer);
      begun.current = 0;
      window.print();
      setAllSeen(false);
    }, 200);
    return () => window.clearInterval(timer);
  }, [isAllSeen, queryClient]);
  const print = () => {
    begun.current = Date.now();
    setAllSeen(true);
  };
  return { print, isAllSeen };
}
