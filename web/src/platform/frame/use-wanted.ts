import { useEffect, useRef, useState } from 'react';

interface Wanted<T> {
  value: T;
  /** What was kept when it was answered: once something else is, the answer has come back. */
  over?: string;
}

/**
 * What a field shows that is kept as soon as it is chosen: what was chosen last, until what is kept has come back
 * from the server, so that the next choice builds on it and not on what was there before.
 * @returns the value to show, and what takes the next one; a refused one goes back to what is kept.
 */
export function useWanted<T>(
  kept: T,
  keep: (next: T) => Promise<unknown>,
): readonly [shown: T, want: (next: T) => void] {
  const [wanted, setWanted] = useState<Wanted<T>>();
  const key = JSON.stringify(kept);
  const latestKey = useRef(key);
  useEffect(() => {
    latestKey.current = key;
  }, [key]);
  const isBack = wanted?.over !== undefined && wanted.over !== key;
  if (isBack) setWanted(undefined);
  const want = (value: T) => {
    const mine: Wanted<T> = { value };
    setWanted(mine);
    const settle = (next: Wanted<T> | undefined) => setWanted((latest) => (latest === mine ? next : latest));
    keep(value).then(
      () => {
        const isThere = JSON.stringify(value) === latestKey.current;
        settle(isThere ? undefined : { value, over: latestKey.current });
      },
      () => settle(undefined),
    );
  };
  return [wanted && !isBack ? wanted.value : kept, want];
}
