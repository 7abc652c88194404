import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { RECORDS } from './queries';

/** Several writes in a row are one reason to ask again. */
const CALM_MS = 400;

/**
 * Asks again for what is on the screen when someone, anywhere, wrote something. Only a page that is looked at
 * listens: a browser opens few connections to one host, and a row of tabs would use them all up.
 */
export function useLiveUpdates(): void {
  const queryClient = useQueryClient();
  useEffect(() => {
    let timer: number | undefined;
    let events: EventSource | undefined;
    const askAgain = () => {
      window.clearTimeout(timer);
      timer = window.setTimeout(() => {
        // While a write is under way the screen is ahead of the server; the write itself asks again.
        if (queryClient.isMutating() === 0) void queryClient.invalidateQueries({ queryKey: [RECORDS] });
      }, CALM_MS);
    };
    const stop = () => {
      events?.close();
      events = undefined;
    };
    const listen = () => {
      if (document.visibilityState === 'hidden') stop();
      else if (!events) {
        events = new EventSource('/api/v1/events');
        events.onmessage = askAgain;
      }
    };
    const comeBack = () => {
      listen();
      if (events) askAgain();
    };
    listen();
    document.addEventListener('visibilitychange', comeBack);
    window.addEventListener('pageshow', listen);
    window.addEventListener('pagehide', stop);
    return () => {
      window.clearTimeout(timer);
      stop();
      document.removeEventListener('visibilitychange', comeBack);
      window.removeEventListener('pageshow', listen);
      window.removeEventListener('pagehide', stop);
    };
  }, [queryClient]);
}
