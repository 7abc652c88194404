import { TILE_COLUMNS, type Tile, type TilePlace } from './dashboard';

const bottomOf = (tiles: readonly Pick<Tile, 'at'>[]): number =>
  tiles.reduce((lowest, { at }) => Math.max(lowest, at.y + at.h), 0);

const overlaps = (a: TilePlace, b: TilePlace): boolean =>
  a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h;

/** The first place, from the top, where a tile of some size has room. */
export function freePlace(tiles: readonly Pick<Tile, 'at'>[], w: number, h: number): TilePlace {
  const end = bottomOf(tiles);
  for (let y = 0; y < end; y++)
    for (let x = 0; x + w <= TILE_COLUMNS; x++) {
      const place = { x, y, w, h };
      if (!tiles.some(({ at }) => overlaps(at, place))) return place;
    }
  return { x: 0, y: end, w, h };
}

/** A key that no tile has yet. */
export function freeTileKey(tiles: readonly Pick<Tile, 'key'>[]): string {
  const taken = new Set(tiles.map(({ key }) => key));
  let next = tiles.length + 1;
  while (taken.has(`t${next}`)) next++;
  return `t${next}`;
}

/** Tiles in the order in which they are read: line by line. */
export const inReadingOrder = <T extends Pick<Tile, 'at'>>(tiles: readonly T[]): T[] =>
  [...tiles].sort((a, b) => a.at.y - b.at.y || a.at.x - b.at.x);

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** Tiles that two people arranged at once, put together, and the keys of those that both changed in different ways. */
export interface Together {
  tiles: Tile[];
  clashes: string[];
}

/**
 * What two people made of the same tiles, tile by tile: whoever changed a tile has it as they made it, one that somebody
 * took away is gone unless the other changed it, new ones are there. What both changed differently is as `mine` has it,
 * and named.
 */
export function arrangedTogether(
  before: readonly Tile[],
  theirs: readonly Tile[],
  mine: readonly Tile[],
): Together {
  const [was, there] = [before, theirs].map((tiles) => new Map(tiles.map((tile) => [tile.key, tile])));
  const here = new Map(mine.map((tile) => [tile.key, tile]));
  const clashes: string[] = [];
  const merged = (key: string): Tile | undefined => {
    const [old, a, b] = [was.get(key), there.get(key), here.get(key)];
    if (same(a, old)) return b;
    if (same(b, old) || same(a, b)) return a;
    clashes.push(key);
    return b ?? a;
  };
  // In one's own order, with what is new in the other's at the end.
  const keys = [...here.keys(), ...[...there.keys()].filter((key) => !here.has(key))];
  return { tiles: keys.map(merged).filter((tile) => tile !== undefined), clashes };
}
