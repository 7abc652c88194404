import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { useOpening } from '../../platform/frame/opening';
import { currentCall, useRing } from './current-call';
import { lazyPart } from '../../platform/frame/lazy-part';

const CallStrip = lazyPart(async () => (await import('./call-strip')).default);

/** Rings the numbers on the page when they are pressed, and shows the call as long as there is something to do. */
export function CallDock() {
  const { data } = useQuery(currentCall());
  const ring = useRing();
  const { opened } = useOpening();
  useEffect(() => {
    const press = (event: MouseEvent) => {
      const link = (event.target as Element).closest<HTMLAnchorElement>('a[href^="tel:"]');
      if (!link || event.ctrlKey || event.metaKey) return;
      event.preventDefault();
      const number = link.getAttribute('href')?.slice('tel:'.length) ?? '';
      // On a sheet it is about what the sheet shows.
      const isOnSheet = link.closest('.sheet') !== null;
      void ring(isOnSheet && opened ? { number, on: { object: opened.object, id: opened.id } } : { number });
    };
    document.addEventListener('click', press);
    return () => document.removeEventListener('click', press);
  }, [ring, opened]);
  return data?.call ? <CallStrip key={data.call.id} call={data.call} now={data.now} /> : null;
}
