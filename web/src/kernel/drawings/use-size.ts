import { useCallback, useState } from 'react';

export interface Size {
  width: number;
  height: number;
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
