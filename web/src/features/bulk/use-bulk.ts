import { type BulkRequest, type Job } from '@zawn/core';
import { useCallback, useState } from 'react';
import { call } from '../../platform/api/client';
import { refusedWords, useFollowJob } from '../../platform/api/follow-job';
import { useNotification } from '../../platform/api/use-notification';
import { useNotices } from '../../platform/api/use-write';
import { number } from '../../platform/frame/format';

/** How many were so already: adding to a list twice is harmless, and says so. */
function alreadyWords({ action }: BulkRequest, { total, changed, refused }: Job): string {
  const already = total - changed - refused;
  if (already <= 0 || action.do === 'plan' || action.do === 'delete' || action.do === 'close') return '';
  const said = {
    addToList: 'on it already',
    takeFromList: 'not on it',
    change: 'so already',
    tag: 'so already',
  }[action.do];
  return ` ${number(already)} ${already === 1 ? 'was' : 'were'} ${said}.`;
}

/** Applies what a dialog asks for, once, and closes it when that is under way. */
export function useBulkDialog(request: BulkRequest | undefined, onDone: () => void, close: () => void) {
  const bulk = useBulk();
  const [isBusy, setBusy] = useState(false);
  const run = async () => {
    if (!request || isBusy) return;
    setBusy(true);
    const isDone = await bulk(request);
    setBusy(false);
    if (!isDone) return;
    onDone();
    close();
  };
  return { isBusy, run: () => void run() };
}

/** Applies an action to many records: progress while it runs, then what came of it, with the way back. */
export function useBulk() {
  const notification = useNotification();
  const { announce, complain } = useNotices();
  const follow = useFollowJob();

  const tell = useCallback(
    (job: Job, request: BulkRequest) => {
      const stopped =
        job.state === 'cancelled' ? ` Stopped after ${number(job.done)} of ${number(job.total)}.` : '';
      const what = job.changed > 0 ? `${job.label}.${stopped}` : 'Nothing changed.';
      const title = `${what}${alreadyWords(request, job)}${refusedWords(job)}`;
      if (job.unit !== null && job.changed > 0) announce({ label: title, unit: job.unit });
      else notification.open('written', { title });
    },
    [notification, announce],
  );

  return useCallback(
    async (request: BulkRequest): Promise<boolean> => {
      try {
        const job = await call<Job>('POST', '/bulk', { body: request });
        void follow(job)
          .then((ended) => tell(ended, request))
          .catch(complain);
        return true;
      } catch (error) {
        complain(error);
        return false;
      }
    },
    [follow, tell, complain],
  );
}
