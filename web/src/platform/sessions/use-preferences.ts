import { useQueryClient } from '@tanstack/react-query';
import { type Preferences, type SessionAnswer } from '@zawn/core';
import { useCallback } from 'react';
import { call } from '../api/client';
import { useNotices } from '../api/use-write';
import { SESSION, useSession } from './session';

/** What the person set for themselves, and the way to set it: shown at once, then kept. */
export function usePreferences(): [Preferences, (changes: Preferences) => Promise<void>] {
  const { preferences } = useSession();
  const queryClient = useQueryClient();
  const { complain } = useNotices();
  const set = useCallback(
    async (changes: Preferences) => {
      const show = (next: Preferences) =>
        queryClient.setQueryData<SessionAnswer>(SESSION, (answer) =>
          answer?.signedIn ? { ...answer, preferences: { ...answer.preferences, ...next } } : answer,
        );
      const before = queryClient.getQueryData<SessionAnswer>(SESSION);
      show(changes);
      try {
        show(await call<Preferences>('PATCH', '/preferences', { body: changes }));
      } catch (error) {
        queryClient.setQueryData(SESSION, before);
        complain(error);
      }
    },
    [queryClient, complain],
  );
  return [preferences, set];
}
