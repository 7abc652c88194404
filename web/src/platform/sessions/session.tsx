import { useQuery, useQueryClient } from '@tanstack/react-query';
import {
  catalogueWith,
  dayIn,
  pipelinesOffered,
  policyOf,
  seenCatalogue,
  type Catalogue,
  type Colleague,
  type Day,
  type Policy,
  type RecordOf,
  type SessionAnswer,
  type SignedIn,
  type SignedOut,
  type WorkingCalendar,
  workingCalendar,
} from '@zawn/core';
import { createContext, use, useCallback, useEffect, useMemo, type ReactNode } from 'react';
import { call, setCsrf, whenSignedOut } from '../api/client';
import { RECORDS } from '../api/queries';
import { writeLike } from '../frame/format';

export const SESSION = ['session'];

/** What the page shows before anyone is signed in, and whether that is because a session ended. */
export type Arrival = SignedOut & { ended: boolean };

/** Whether anyone is signed in, and the ways in and out. */
export function useSessionAnswer() {
  const queryClient = useQueryClient();
  const { data, error, refetch } = useQuery({
    queryKey: SESSION,
    queryFn: () => call<SessionAnswer>('GET', '/session'),
    staleTime: Infinity,
  });
  if (data?.signedIn) setCsrf(data.csrf);

  useEffect(() => {
    whenSignedOut(() => {
      const known = queryClient.getQueryData<SessionAnswer>(SESSION);
      if (!known?.signedIn) return;
      void call<SignedOut>('GET', '/session').then((answer) => {
        queryClient.setQueryData(SESSION, { ...answer, ended: true });
      });
    });
  }, [queryClient]);

  const enter = useCallback(
    (answer: SignedIn) => {
      queryClient.removeQueries({ queryKey: [RECORDS] });
      queryClient.setQueryData(SESSION, answer);
    },
    [queryClient],
  );
  return { answer: data, error, refetch, enter };
}

/** Signs out and forgets everything that was read. */
export function useSignOut() {
  return useCallback(async () => {
    await call('DELETE', '/session');
    // A fresh page holds nothing of what was read before.
    location.assign('/');
  }, []);
}

interface Session extends SignedIn {
  /** What the person may see and do. */
  policy: Policy;
  /** The built-in fields and the organisation's own, as far as the person sees them. */
  catalogue: Catalogue;
  person: (id: number | null | undefined) => Colleague | undefined;
  /** Where the person is; times are shown on its clocks. */
  timeZone: string;
  /** When the person works. */
  calendar: WorkingCalendar;
  /** The day an instant falls on in the person’s time zone. */
  dayOf: (instant: unknown) => Day;
  stage: (id: unknown) => RecordOf<'stage'> | undefined;
  /** The pipelines that are not retired, in order. */
  pipelinesInUse: RecordOf<'pipeline'>[];
  /** Those of them that the person begins deals in, the one proposed first in front. */
  pipelinesOffered: readonly RecordOf<'pipeline'>[];
  /** The stages of a pipeline that are not retired, in order. */
  stagesOf: (pipeline: number) => RecordOf<'stage'>[];
}

const SessionContext = createContext<Session | undefined>(undefined);

/** The signed-in person and everything around the records. */
export function useSession(): Session {
  const session = use(SessionContext);
  if (!session) throw new Error('useSession outside of SessionProvider');
  return session;
}

export function SessionProvider({ signedIn, children }: { signedIn: SignedIn; children: ReactNode }) {
  const value = useMemo<Session>(() => {
    const people = new Map(signedIn.people.map((person) => [person.id, person]));
    const stages = new Map(signedIn.stages.map((stage) => [stage.id, stage]));
    const policy = policyOf(signedIn.actor);
    const { profile, organisation } = signedIn;
    const timeZone = profile.timeZone ?? organisation.timeZone;
    const pipelinesInUse = signedIn.pipelines.filter(({ retired }) => retired !== true);
    const teams = [signedIn.me.team ?? [], signedIn.actor.teams].flat();
    return {
      ...signedIn,
      policy,
      catalogue: seenCatalogue(catalogueWith(signedIn), policy),
      person: (id) => (id == null ? undefined : people.get(id)),
      timeZone,
      calendar: workingCalendar(signedIn, signedIn.me.team, profile),
      dayOf: (instant) => dayIn(timeZone, String(instant)),
      stage: (id) => stages.get(Number(id)),
      stagesOf: (pipeline) =>
        signedIn.stages.filter((stage) => stage.pipeline === pipeline && stage.retired !== true),
      pipelinesInUse,
      pipelinesOffered: pipelinesOffered(pipelinesInUse, signedIn.pipelineTeams, teams),
    };
  }, [signedIn]);
  // All of it is drawn anew where dates, numbers or amounts are written otherwise than before.
  const currencies = signedIn.currencyFormats;
  const { locale } = signedIn.preferences;
  const way = writeLike({ locale, currencies });
  return (
    <SessionContext key={way} value={value}>
      {children}
    </SessionContext>
  );
}
