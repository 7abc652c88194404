import { useCallback, useState } from 'react';

const FIRST = 900;

/** The width an element has, as it changes. */
export function useWidth(): [ref: (element: HTMLElement | null) => (() => void) | undefined, width: number] {
  const [width, setWidth] = useState(FIRST);
  const ref = useCallback((element: HTMLElement | null) => {
    if (!element) return;
    const observer = new ResizeObserver(([{ contentRect }]) => setWidth(Math.floor(contentRect.width)));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [ref, width];
}
