import { createContext, use, useCallback, useState } from 'react';

export interface Size {
  width: number;
  height: number;
}

/** A drawing on a page is never lower than this; one in a tile is as high as its tile. */
const PAGE = 300;
const Lowest = createContext(PAGE);
export const LowestDrawing = Lowest.Provider;

/** How high a drawing is: as its room, and not too low to be read. */
export const useTall = ({ height }: Pick<Size, 'height'>): number => Math.max(use(Lowest), height);

/** The room above and below the rows of a drawing in a tile, for its scale. */
const AROUND = 24;
const [LEAST_ROW, MOST_ROW] = [21, 46];

/**
 * How high each of so many rows is: as usual on a page; in a tile they share its height, and are not too low to be read.
 * @param usual in pixels.
 */
export function useRowHeight({ height }: Pick<Size, 'height'>, rows: number, usual: number): number {
  const isFree = use(Lowest) === PAGE;
  const share = Math.floor((height - AROUND) / Math.max(1, rows));
  return isFree ? usual : Math.min(MOST_ROW, Math.max(LEAST_ROW, share));
}

const FIRST: Size = { width: 900, height: 420 };

/** The size an element has, as it changes. */
export function useSize(): [ref: (element: HTMLElement | null) => (() => void) | undefined, size: Size] {
  const [size, setSize] = useState(FIRST);
  const ref = useCallback((element: HTMLElement | null) => {
    if (!element) return;
    const observer = new ResizeObserver(([{ contentRect }]) =>
      setSize({ width: Math.floor(contentRect.width), height: Math.floor(contentRect.height) }),
    );
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [ref, size];
}
