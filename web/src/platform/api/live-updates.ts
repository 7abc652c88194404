import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useEffectEvent } from 'react';
import { isObjectKey, objectType } from '@zawn/core';
import { SESSION, useSession } from '../sessions/session';
import { RECORDS } from './queries';

/** Several writes in a row are one reason to ask again. */
const CALM_MS = 400;

/**
 * Asks again for what is on the screen when someone, anywhere, wrote something. Only a page that is looked at
 * listens: a browser opens few connections to one host, and a row of tabs would use them all up.
 */
export function useLiveUpdates(): void {
  const { actor, lastChange } = useSession();
  // Whoever may see other things hears of other things.
  const hearsAs = JSON.stringify(actor);
  const queryClient = useQueryClient();
  // Whatever was written between the first answer and the listening is told first.
  const address = useEffectEvent(() => `/api/v1/events?after=${lastChange}`);
  useEffect(() => {
    let timer: number | undefined;
    let events: EventSource | undefined;
    let isSetupWritten = false;
    const askAgain = () => {
      window.clearTimeout(timer);
      timer = window.setTimeout(() => {
        // While a write is under way the screen is ahead of the server.
        if (queryClient.isMutating() > 0) {
          askAgain();
          return;
        }
        void queryClient.invalidateQueries({ queryKey: [RECORDS] });
        // Fields, stages and people are part of what everybody is signed in to.
        if (isSetupWritten) void queryClient.invalidateQueries({ queryKey: SESSION });
        isSetupWritten = false;
      }, CALM_MS);
    };
    const hear = ({ data }: MessageEvent<string>) => {
      const { objects = [] } = JSON.parse(data) as { objects?: string[] };
      isSetupWritten ||= objects.some(
        (object) => isObjectKey(object) && (objectType(object).category === 'setup' || object === 'share'),
      );
      askAgain();
    };
    const stop = () => {
      events?.close();
      events = undefined;
    };
    const listen = () => {
      if (document.visibilityState === 'hidden') stop();
      else if (!events) {
        events = new EventSource(address());
        events.onmessage = hear;
        // Refused when it tries again, it stays closed: whoever has left or was signed out learns of it by asking.
        events.onerror = () => {
          if (events?.readyState !== EventSource.CLOSED) return;
          stop();
          askAgain();
        };
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
  }, [queryClient, hearsAs]);
}
