import { useQueryClient } from '@tanstack/react-query';
import { type Job } from '@zawn/core';
import { Button, Progress } from 'antd';
import { createElement, useCallback } from 'react';
import { counted, number } from '../frame/format';
import { call } from './client';
import { RECORDS } from './queries';
import { useNotification } from './use-notification';

/** How often a running job is looked at. */
const LOOK_MS = 700;
const REASONS = 3;

const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** What a job left alone, with the first reasons. */
export function refusedWords({ refused, refusals }: Job): string {
  if (refused === 0) return '';
  const named = refusals.slice(0, REASONS).map(({ name, reason }) => `${name}: ${reason}`);
  const more = refused > named.length ? `, and ${number(refused - named.length)} more` : '';
  return ` ${counted(refused, 'record')} left as ${refused === 1 ? 'it was' : 'they were'}: ${named.join('; ')}${more}.`;
}

/** How far long work is, with the way to stop it. Taking something back is not stopped half-way. */
function progressOf({ id, kind, label, done, total }: Job) {
  const stop = () => void call('POST', `/jobs/${id}/cancel`);
  return {
    title: label,
    description: createElement(Progress, {
      percent: Math.floor((100 * done) / total),
      format: () => `${number(done)} of ${number(total)}`,
    }),
    actions: kind === 'undo' ? undefined : createElement(Button, { size: 'small', onClick: stop }, 'Stop'),
    duration: 0,
  };
}

/** Shows how far a job is while it runs. @returns what follows one to its end, and gives it back as it ended. */
export function useFollowJob() {
  const notification = useNotification();
  const queryClient = useQueryClient();
  return useCallback(
    async (started: Job): Promise<Job> => {
      let job = started;
      while (job.state === 'waiting' || job.state === 'running') {
        notification.open('job', progressOf(job));
        await wait(LOOK_MS);
        job = await call<Job>('GET', `/jobs/${job.id}`);
      }
      notification.close('job');
      void queryClient.invalidateQueries({ queryKey: [RECORDS] });
      if (job.state === 'failed') throw new Error(`${job.label}: ${job.refusals[0]?.reason ?? 'it failed'}.`);
      return job;
    },
    [notification, queryClient],
  );
}
