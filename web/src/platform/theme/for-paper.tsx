import { useCallback, useMemo, useState, type ReactNode } from 'react';
import { flushSync } from 'react-dom';
import { light, variablesOf } from './palette';
import { themeIn, ThemeContext, useTheme } from './theme';

/** What puts the colours of paper on an element, and takes them off again. */
const papers = new WeakMap<Element, (isOnPaper: boolean) => void>();
const MARK = 'data-for-paper';
const onPaper = { ...variablesOf(light), color: light.ink };

/** Holds what may be taken out of the page as a picture: that has the colours of paper, whatever the screen has. */
export function ForPaper({ className, children }: { className: string; children: ReactNode }) {
  const [isOnPaper, setOnPaper] = useState(false);
  const own = useTheme();
  const theme = useMemo(() => (isOnPaper ? themeIn('light', own.setMode) : own), [isOnPaper, own]);
  const hold = useCallback((element: HTMLDivElement | null) => {
    if (element) papers.set(element, setOnPaper);
  }, []);
  return (
    <div ref={hold} className={className} {...{ [MARK]: '' }} style={isOnPaper ? onPaper : undefined}>
      <ThemeContext value={theme}>{children}</ThemeContext>
    </div>
  );
}

/** What is taken of an element while it has the colours of paper; it has its own again before the screen is drawn. */
export function takenOnPaper<T>(element: Element, take: () => T): T {
  const held = element.closest(`[${MARK}]`);
  const setOnPaper = held && papers.get(held);
  if (!setOnPaper) return take();
  flushSync(() => setOnPaper(true));
  try {
    return take();
  } finally {
    flushSync(() => setOnPaper(false));
  }
}
