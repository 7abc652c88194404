import { useSyncExternalStore } from 'react';

const NARROW = '(max-width: 640px)';

function subscribe(changed: () => void): () => void {
  const media = matchMedia(NARROW);
  media.addEventListener('change', changed);
  return () => media.removeEventListener('change', changed);
}

/** Whether the window is as narrow as a phone's. */
export const usePhone = (): boolean => useSyncExternalStore(subscribe, () => matchMedia(NARROW).matches);
