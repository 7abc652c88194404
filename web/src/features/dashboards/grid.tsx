import { TILE_COLUMNS, type Tile } from '@zawn/core';
import { type ReactNode } from 'react';
import {
  cloneLayout,
  GridLayout,
  moveElement,
  verticalCompactor,
  type Layout,
  type LayoutItem,
} from 'react-grid-layout';
import 'react-grid-layout/css/styles.css';
import { useSize } from '../../kernel/drawings/use-size';
import { type TileStep } from './tile-frame';

const ROW = 34;
const GAP = 12;
/** The smallest tile that shows anything. */
const SMALLEST = { w: 2, h: 2 };

const layoutOf = (tiles: readonly Tile[]): LayoutItem[] =>
  tiles.map(({ key, at }) => ({ i: key, ...at, minW: SMALLEST.w, minH: SMALLEST.h }));

/** Tiles laid out as a grid says; the same ones where it says nothing else. */
function placed(tiles: readonly Tile[], layout: Layout): readonly Tile[] {
  const places = new Map(layout.map(({ i, x, y, w, h }) => [i, { x, y, w, h }]));
  const next = tiles.map((tile) => {
    const at = places.get(tile.key) ?? tile.at;
    return JSON.stringify(at) === JSON.stringify(tile.at) ? tile : { ...tile, at };
  });
  return next.every((tile, index) => tile === tiles[index]) ? tiles : next;
}

/** The tiles after one of them took a step: the others make room for it, and what hangs free moves up. */
export function stepped(tiles: readonly Tile[], key: string, step: TileStep): readonly Tile[] {
  const layout = cloneLayout(layoutOf(tiles));
  const item = layout.find(({ i }) => i === key);
  if (!item) return tiles;
  const [dx = 0, dy = 0, dw = 0, dh = 0] = [step.x, step.y, step.w, step.h];
  const w = Math.min(TILE_COLUMNS - item.x, Math.max(SMALLEST.w, item.w + dw));
  const h = Math.max(SMALLEST.h, item.h + dh);
  Object.assign(item, { w, h });
  const x = Math.min(TILE_COLUMNS - w, Math.max(0, item.x + dx));
  // Down, a tile changes places with the one below, which may be several rows high.
  const below = layout.filter((other) => other !== item && other.x < x + w && x < other.x + other.w);
  const next = below.find(({ y }) => y >= item.y + item.h);
  const y = dy > 0 ? (next ? next.y + next.h - item.h + 1 : item.y) : Math.max(0, item.y + dy);
  const moved = moveElement(layout, item, x, Math.max(0, y), true, false, 'vertical', TILE_COLUMNS);
  return placed(tiles, verticalCompactor.compact(moved, TILE_COLUMNS));
}

interface Props {
  tiles: readonly Tile[];
  isArranging: boolean;
  /** The height of a row, where the whole is to fit somewhere. */
  row?: number;
  arrange: (tiles: readonly Tile[]) => void;
  show: (tile: Tile) => ReactNode;
}

/** Tiles where they lie; arranged, they are moved by their heads and sized at their corners. */
export function TileGrid({ tiles, isArranging, row = ROW, arrange, show }: Props) {
  const [ref, { width }] = useSize();
  const take = (layout: Layout) => {
    const next = placed(tiles, layout);
    if (next !== tiles) arrange(next);
  };
  return (
    <div ref={ref} className={isArranging ? 'tile-grid tile-grid-arranging' : 'tile-grid'}>
      <GridLayout
        width={width}
        layout={layoutOf(tiles)}
        gridConfig={{ cols: TILE_COLUMNS, rowHeight: row, margin: [GAP, GAP], containerPadding: [0, 0] }}
        dragConfig={{ enabled: isArranging, handle: '.tile-handle', cancel: 'button, a' }}
        resizeConfig={{ enabled: isArranging, handles: ['se'] }}
        onDragStop={take}
        onResizeStop={take}
      >
        {tiles.map((tile) => (
          <div key={tile.key}>{show(tile)}</div>
        ))}
      </GridLayout>
    </div>
  );
}

/** The height of a row with which a number of rows fits into so many pixels. */
export const rowFor = (tiles: readonly Tile[], height: number): number => {
  const rows = tiles.reduce((most, { at }) => Math.max(most, at.y + at.h), 1);
  return Math.max(14, Math.floor((height - (rows - 1) * GAP) / rows));
};
