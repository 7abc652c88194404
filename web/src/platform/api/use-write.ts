import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type Undone, type Written } from '@zawn/core';
import { Button } from 'antd';
import { createElement, useCallback } from 'react';
import { ApiProblem, call, type CallOptions } from './client';
import { refusedWords, useFollowJob } from './follow-job';
import { callInTurn } from './in-turn';
import { RECORDS } from './queries';
import { useNotification } from './use-notification';

export interface Write extends CallOptions {
  method: 'POST' | 'PATCH' | 'DELETE';
  path: string;
}

/** The unit written last in this window, for the undo key. */
let lastUnit: number | undefined;

/** Announces what was written, with the way back. */
export function useNotices() {
  const notification = useNotification();
  const queryClient = useQueryClient();
  const follow = useFollowJob();

  const complain = useCallback(
    (error: unknown) => {
      const detail = error instanceof Error ? error.message : 'Something went wrong. Try again.';
      notification.open('problem', { title: detail });
    },
    [notification],
  );

  const undo = useCallback(
    async (unit = lastUnit) => {
      if (unit === undefined) return;
      lastUnit = undefined;
      notification.close('written');
      try {
        const { label, value } = await call<Written<Undone>>('POST', `/units/${unit}/undo`);
        const say = (title: string) => notification.open('undone', { title });
        if (value.job) {
          void follow(value.job)
            .then((ended) => say(`${label}.${refusedWords(ended)}`))
            .catch(complain);
          return;
        }
        const kept =
          value.kept.length > 0
            ? ` Left as they are, because changed since: ${value.kept.map(({ name }) => name).join(', ')}.`
            : '';
        say(`${label}.${kept}`);
      } catch (error) {
        complain(error);
      }
      await queryClient.invalidateQueries({ queryKey: [RECORDS] });
    },
    [notification, queryClient, follow, complain],
  );

  /** Says what was done, with a way to take it back. */
  const say = useCallback(
    (title: string, takeBack: () => void, shortcut?: string) => {
      const action = createElement(
        Button,
        { size: 'small', onClick: takeBack, ...(shortcut ? { 'aria-keyshortcuts': shortcut } : {}) },
        'Undo',
      );
      notification.open('written', { title, actions: action });
    },
    [notification],
  );

  const announce = useCallback(
    ({ label, unit }: Pick<Written<unknown>, 'label' | 'unit'>) => {
      lastUnit = unit;
      say(label, () => void undo(unit), 'z');
    },
    [say, undo],
  );

  return { announce, complain, say, undo };
}

/**
 * Writes through the API, then says so with an undo and brings everything on the screen up to date. A refusal is
 * shown too, unless the caller shows it where it belongs.
 */
export function useWrite<T = unknown>({ quiet = false }: { quiet?: boolean } = {}) {
  const queryClient = useQueryClient();
  const { announce, complain } = useNotices();
  return useMutation({
    mutationFn: ({ method, path, ...options }: Write) => callInTurn<Written<T>>(method, path, options),
    onSuccess: (written) => {
      if (written.label) announce(written);
      // Not waited for: a form closes, and what follows opens, as soon as the write is acknowledged.
      void queryClient.invalidateQueries({ queryKey: [RECORDS] });
    },
    onError: (error) => {
      const signedOut = error instanceof ApiProblem && error.problem.type === '/problems/not-signed-in';
      if (!quiet && !signedOut) complain(error);
    },
  });
}
