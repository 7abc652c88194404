import { useQueryClient } from '@tanstack/react-query';
import { type NextOfList, type PassedOver } from '@zawn/core';
import { useCallback } from 'react';
import { call } from '../../platform/api/client';
import { RECORDS } from '../../platform/api/queries';
import { useNotification } from '../../platform/api/use-notification';
import { useNotices } from '../../platform/api/use-write';
import { number } from '../../platform/frame/format';

const reasons: Record<PassedOver, string> = {
  offHours: 'outside office hours',
  reached: 'reached lately',
  noCalls: 'not to be called',
  noNumber: 'without a number',
  gone: 'no longer there',
};

/** Whom a list passes over, in words; empty where nobody is. */
export function passedInWords(passed: NextOfList['passed']): string {
  return Object.entries(reasons)
    .flatMap(([reason, words]) => {
      const count = passed[reason as PassedOver];
      return count ? [`${number(count)} ${words}`] : [];
    })
    .join(', ');
}

/** Rings the next of a call list, or says why nobody is left. */
export function useCallNext(): (list: number) => Promise<void> {
  const queryClient = useQueryClient();
  const notification = useNotification();
  const { complain } = useNotices();
  return useCallback(
    async (list: number) => {
      try {
        const { call: begun, passed, progress } = await call<NextOfList>('POST', `/call-lists/${list}/next`);
        if (!begun) {
          const left = passedInWords(passed);
          const title =
            progress.waiting === 0
              ? `All ${number(progress.count)} were called.`
              : `Nobody can be called now: ${left}.`;
          notification.open('news', { title });
        }
      } catch (error) {
        complain(error);
      }
      await queryClient.invalidateQueries({ queryKey: [RECORDS] });
    },
    [queryClient, notification, complain],
  );
}
