import { useQueryClient, type Query } from '@tanstack/react-query';
import { useEffect, useEffectEvent } from 'react';
import { isObjectKey, objectType } from '@zawn/core';
import { SESSION, useSession } from '../sessions/session';
import { ANY_RECORD, RECORDS } from './queries';

/** Several writes in a row are one reason to ask again. */
const CALM_MS = 400;

/** So long lies between two times of asking again, at least: longer while much is looked at together. */
let leastBetweenMs = 0;

/** Asks again at most once in so many milliseconds while a page is shown. */
export function useCalmUpdates(between: number): void {
  useEffect(() => {
    leastBetweenMs = between;
    return () => {
      leastBetweenMs = 0;
    };
  }, [between]);
}

/**
 * Whether an answer may be another since these were written: one that does not say what it reads is another after any
 * write to records. What is no record (notices, the call one is on) concerns only those who say that they read it.
 */
export const isConcerned = (
  { meta }: Pick<Query, 'meta'>,
  written: ReadonlySet<string> | undefined,
): boolean => {
  if (!written) return true;
  const reads = (meta?.reads as readonly string[] | undefined) ?? [ANY_RECORD];
  return reads.some((each) => (each === ANY_RECORD ? [...written].some(isObjectKey) : written.has(each)));
};

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
    let written = new Set<string>();
    // What was missed meanwhile may be anything.
    let isAll = false;
    let askedAt = 0;
    const askAgain = () => {
      const wait = Math.max(CALM_MS, askedAt + leastBetweenMs - Date.now());
      window.clearTimeout(timer);
      timer = window.setTimeout(() => {
        // While a write is under way the screen is ahead of the server.
        if (queryClient.isMutating() > 0) {
          askAgain();
          return;
        }
        const now = isSetupWritten || isAll ? undefined : written;
        void queryClient.invalidateQueries({
          queryKey: [RECORDS],
          predicate: (query) => isConcerned(query, now),
        });
        written = new Set();
        isAll = false;
        askedAt = Date.now();
        // Fields, stages and people are part of what everybody is signed in to.
        if (isSetupWritten) void queryClient.invalidateQueries({ queryKey: SESSION });
        isSetupWritten = false;
      }, wait);
    };
    const hear = ({ data }: MessageEvent<string>) => {
      const { objects = [] } = JSON.parse(data) as { objects?: string[] };
      for (const object of objects) written.add(object);
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
          isAll = true;
          askAgain();
        };
      }
    };
    const comeBack = () => {
      listen();
      isAll = true;
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
