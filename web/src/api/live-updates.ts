import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { RECORDS } from './queries';

/** Several writes in a row are one reason to ask again. */
const CALM_MS = 400;

/** Asks again for what is on the screen when someone, anywhere, wrote something. */
export function useLiveUpdates(): void {
  const queryClient = useQueryClient();
  useEffect(() => {
    let timer: number | undefined;
    const events = new EventSource('/api/v1/events');
    events.onmessage = () => {
      window.clearTimeout(timer);
      timer = window.setTimeout(() => void queryClient.invalidateQueries({ queryKey: [RECORDS] }), CALM_MS);
    };
    return () => {
      window.clearTimeout(timer);
      events.close();
    };
  }, [queryClient]);
}
