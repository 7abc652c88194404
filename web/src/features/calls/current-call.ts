import { queryOptions, useQueryClient } from '@tanstack/react-query';
import { type CurrentCall, type PhoneCall, type SubjectKey } from '@zawn/core';
import { App } from 'antd';
import { useCallback } from 'react';
import { ApiProblem, call } from '../../platform/api/client';
import { ANY_RECORD, RECORDS } from '../../platform/api/queries';
import { useNotices } from '../../platform/api/use-write';

/** While a call goes on, what happens on the line is asked for so often. */
const ON_THE_LINE_MS = 700;

/** The call that the person has to do with now. */
export const currentCall = () =>
  queryOptions({
    queryKey: [RECORDS, 'current call'],
    queryFn: ({ signal }) => call<CurrentCall>('GET', '/calls/current', { signal }),
    meta: { reads: [ANY_RECORD, 'phoneCall'] },
    refetchInterval: ({ state }) =>
      state.data?.call && state.data.call.state !== 'ended' ? ON_THE_LINE_MS : false,
  });

/** Whom to ring: a number, or somebody whose number is looked up. */
export interface Wanted {
  number?: string;
  on?: { object: SubjectKey; id: number };
  /** The planned activity that it is. */
  activity?: number;
}

/** Rings somebody, once it is said what came of the call before, and that somebody not to be called is meant. */
export function useRing(): (wanted: Wanted) => Promise<void> {
  const queryClient = useQueryClient();
  const { modal } = App.useApp();
  const { complain } = useNotices();
  return useCallback(
    async (wanted: Wanted) => {
      const asks = (title: string, okText: string) => modal.confirm({ title, okText, icon: null });
      const before = queryClient.getQueryData(currentCall().queryKey)?.call;
      if (before?.state === 'ended') {
        const whom = before.on?.name ?? before.number;
        if (
          !(await asks(
            `It is not written down what came of the call with ${whom}.`,
            'Leave it open and call',
          ))
        )
          return;
      }
      const ring = async (anyway: boolean): Promise<PhoneCall | undefined> => {
        try {
          return await call<PhoneCall>('POST', '/calls', { body: anyway ? { ...wanted, anyway } : wanted });
        } catch (error) {
          const marked = error instanceof ApiProblem && error.message.includes('not to be called');
          if (anyway || !marked) throw error;
          return (await asks(error.message, 'Call anyway')) ? ring(true) : undefined;
        }
      };
      try {
        const begun = await ring(false);
        if (begun) await queryClient.invalidateQueries({ queryKey: currentCall().queryKey });
      } catch (error) {
        complain(error);
      }
    },
    [queryClient, modal, complain],
  );
}
