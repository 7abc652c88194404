import { type FrozenRecordsRequest, type RowPlace } from '@zawn/core';
import { useMemo } from 'react';
import { useSearchParams } from 'react-router';

/** The parameter of an address that says behind which figure the records lie that are shown. */
const PLACE = 'p';

/** The address of the records behind a figure of the page one is on. */
export function placeAddress({ figure, ...at }: RowPlace, more: Record<string, string> = {}): string {
  const place = { ...at, ...(figure ? { figure: figure.key } : {}) };
  return `?${new URLSearchParams({ ...more, [PLACE]: JSON.stringify(place) }).toString()}`;
}

/** The place that the address names, and how to leave it. */
export function usePlace(): { place: FrozenRecordsRequest['place'] | undefined; close: () => void } {
  const [parameters, setParameters] = useSearchParams();
  const text = parameters.get(PLACE);
  const close = () =>
    setParameters((all) => {
      all.delete(PLACE);
      return all;
    });
  // The same place stays the same as long as the address does.
  const place = useMemo(() => {
    try {
      return text === null ? undefined : (JSON.parse(text) as FrozenRecordsRequest['place']);
    } catch {
      return undefined;
    }
  }, [text]);
  return { place, close };
}
