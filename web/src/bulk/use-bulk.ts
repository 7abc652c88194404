import { useQueryClient } from '@tanstack/react-query';
import { type BulkRequest, type Job } from '@zawn/core';
import { App, Button, Progress } from 'antd';
import { createElement, useCallback } from 'react';
import { call } from '../api/client';
import { RECORDS } from '../api/queries';
import { useNotices } from '../api/use-write';
import { counted, number } from '../frame/format';

/** How often a running job is looked at. */
const LOOK_MS = 700;
const NOTICE = 'job';
const REASONS = 3;

const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** How many were so already: adding to a list twice is harmless, and says so. */
function alreadyWords({ deed }: BulkRequest, { total, changed, refused }: Job): string {
  const already = total - changed - refused;
  if (already <= 0 || deed.do === 'plan' || deed.do === 'delete') return '';
  const said = {
    addToList: 'on it already',
    takeFromList: 'not on it',
    change: 'so already',
    tag: 'so already',
  }[deed.do];
  return ` ${number(already)} ${already === 1 ? 'was' : 'were'} ${said}.`;
}

/** What a job left alone, with the first reasons. */
function refusedWords({ refused, refusals }: Job): string {
  if (refused === 0) return '';
  const named = refusals.slice(0, REASONS).map(({ name, reason }) => `${name}: ${reason}`);
  const more = refused > named.length ? `, and ${number(refused - named.length)} more` : '';
  return ` ${counted(refused, 'record')} left as ${refused === 1 ? 'it was' : 'they were'}: ${named.join('; ')}${more}.`;
}

/** Follows long work to its end: progress while it runs, then what came of it, with the way back. */
function useJobs() {
  const { notification } = App.useApp();
  const queryClient = useQueryClient();
  const { announce, complain } = useNotices();

  const progress = useCallback(
    ({ id, label, done, total }: Job) =>
      notification.open({
        key: NOTICE,
        title: label,
        description: createElement(Progress, {
          percent: Math.floor((100 * done) / total),
          format: () => `${number(done)} of ${number(total)}`,
        }),
        actions: createElement(
          Button,
          { size: 'small', onClick: () => void call('POST', `/jobs/${id}/cancel`) },
          'Stop',
        ),
        duration: 0,
        className: 'notice',
      }),
    [notification],
  );

  const follow = useCallback(
    async (started: Job, request: BulkRequest): Promise<Job> => {
      let job = started;
      while (job.state === 'waiting' || job.state === 'running') {
        progress(job);
        await wait(LOOK_MS);
        job = await call<Job>('GET', `/jobs/${job.id}`);
      }
      notification.destroy(NOTICE);
      void queryClient.invalidateQueries({ queryKey: [RECORDS] });
      const stopped =
        job.state === 'cancelled' ? ` Stopped after ${number(job.done)} of ${number(job.total)}.` : '';
      const title = `${job.label}.${stopped}${alreadyWords(request, job)}${refusedWords(job)}`;
      if (job.state === 'failed')
        complain(new Error(`${job.label}: ${job.refusals[0]?.reason ?? 'it failed'}.`));
      else if (job.unit !== null && job.changed > 0 && job.kind === 'bulk')
        announce({ label: title, unit: job.unit });
      else
        notification.open({
          key: NOTICE,
          title:
            job.changed > 0 ? title : `Nothing changed.${alreadyWords(request, job)}${refusedWords(job)}`,
          duration: 9,
          className: 'notice',
        });
      return job;
    },
    [progress, notification, queryClient, announce, complain],
  );
  return follow;
}

/** Does a deed to many records. */
export function useBulk() {
  const follow = useJobs();
  const { complain } = useNotices();
  return useCallback(
    async (request: BulkRequest): Promise<boolean> => {
      try {
        const job = await call<Job>('POST', '/bulk', { body: request });
        void follow(job, request).catch(complain);
        return true;
      } catch (error) {
        complain(error);
        return false;
      }
    },
    [follow, complain],
  );
}
