import { kindName, type DashboardChoice, type Tile } from '@zawn/core';
import { Dropdown, type MenuProps } from 'antd';
import { Ellipsis, Move } from 'lucide-react';
import { useCallback, useState, type KeyboardEvent } from 'react';
import { Link } from 'react-router';
import { Ignored } from './ignored';
import { ListTile, useNamedView } from './list-tile';
import { MovementTile } from './movement-tile';
import { NoteTile, UpkeepTile, WaterlineTile } from './other-tiles';
import { ReportTile, useNamedReport } from './report-tile';
import { NO_LIST, NO_REPORT, useTileAddress } from './tile-address';
import { type TileProps } from './tile-props';

/** A step of a tile by the keyboard: where to, or how much larger. */
export type TileStep = Partial<Record<'x' | 'y' | 'w' | 'h', number>>;

interface Props {
  tile: Tile;
  choice: DashboardChoice;
  isArranging: boolean;
  /** Shown whether it has come into view or not, as on paper. */
  isAllSeen: boolean;
  /** Nothing can be done with it but looking. */
  isBare?: boolean;
  change?: () => void;
  remove?: () => void;
  step?: (step: TileStep) => void;
}

/** What a tile is called: by its title, by what it shows, or by what it is. */
export function useTileName(tile: Tile): string {
  const report = useNamedReport(tile.kind === 'report' ? tile : NO_REPORT);
  const list = useNamedView(tile.kind === 'list' ? tile : NO_LIST);
  return tile.title ?? report.name ?? list.name ?? kindName(tile.kind);
}

const steps: Record<string, [move: TileStep, size: TileStep]> = {
  ArrowLeft: [{ x: -1 }, { w: -1 }],
  ArrowRight: [{ x: 1 }, { w: 1 }],
  ArrowUp: [{ y: -1 }, { h: -1 }],
  ArrowDown: [{ y: 1 }, { h: 1 }],
};

/** Whether an element is, or was, about to be seen. */
function useSeen(): [ref: (element: HTMLElement | null) => (() => void) | undefined, isSeen: boolean] {
  const [isSeen, setSeen] = useState(false);
  const ref = useCallback((element: HTMLElement | null) => {
    if (!element) return;
    const observer = new IntersectionObserver(
      ([{ isIntersecting }]) => {
        if (!isIntersecting) return;
        setSeen(true);
        observer.disconnect();
      },
      { rootMargin: '300px' },
    );
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [ref, isSeen];
}

/** One tile: its name, what it does not follow of what is chosen, and what it shows. */
export function TileFrame({ tile, choice, isArranging, isAllSeen, isBare, change, remove, step }: Props) {
  const name = useTileName(tile);
  const address = useTileAddress(tile, choice);
  const [ref, wasSeen] = useSeen();
  const items: MenuProps['items'] = [
    { key: 'change', label: 'Change the tile…' },
    { type: 'divider' },
    { key: 'remove', label: 'Take the tile away' },
  ];
  const moveByKey = (event: KeyboardEvent) => {
    const found = steps[event.key];
    if (!found) return;
    event.preventDefault();
    step?.(found[event.shiftKey ? 1 : 0]);
  };
  return (
    <section ref={ref} className="tile" aria-label={name} data-tile={tile.key}>
      <header className={isArranging ? 'tile-head tile-handle' : 'tile-head'}>
        <h2 className="clip">{address && !isArranging ? <Link to={address}>{name}</Link> : name}</h2>
        {isArranging && (
          <button
            type="button"
            className="icon-button tile-move"
            aria-label={`Move “${name}” with the arrow keys, change its size with Shift and the arrow keys`}
            onKeyDown={moveByKey}
          >
            <Move size={14} aria-hidden />
          </button>
        )}
        {!isBare && (
          <Dropdown
            trigger={['click']}
            menu={{ items, onClick: ({ key }) => (key === 'change' ? change?.() : remove?.()) }}
          >
            <button type="button" className="icon-button" aria-label={`What to do with “${name}”`}>
              <Ellipsis size={15} aria-hidden />
            </button>
          </Dropdown>
        )}
      </header>
      <div className="tile-body">
        <TileContentPart
          tile={tile}
          choice={choice}
          isSeen={wasSeen || isAllSeen}
          ignore={(ignored) => <Ignored ignored={ignored} choice={choice} />}
        />
      </div>
    </section>
  );
}

function TileContentPart({ tile, ...props }: Omit<TileProps<never>, 'tile'> & { tile: Tile }) {
  switch (tile.kind) {
    case 'report':
      return <ReportTile tile={tile} {...props} />;
    case 'list':
      return <ListTile tile={tile} {...props} />;
    case 'movement':
      return <MovementTile tile={tile} {...props} />;
    case 'waterline':
      return <WaterlineTile tile={tile} {...props} />;
    case 'upkeep':
      return <UpkeepTile isSeen={props.isSeen} />;
    case 'note':
      return <NoteTile tile={tile} />;
  }
}
