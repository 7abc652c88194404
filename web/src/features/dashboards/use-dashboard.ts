import { useQuery, useQueryClient } from '@tanstack/react-query';
import {
  arrangedTogether,
  dashboardDesignOf,
  readyDashboard,
  type Dashboard,
  type DashboardDesign,
  type ReadyDashboard,
} from '@zawn/core';
import { useMemo, useState } from 'react';
import { useParams } from 'react-router';
import { ApiProblem } from '../../platform/api/client';
import { RECORDS } from '../../platform/api/queries';
import { useNotices, useWrite } from '../../platform/api/use-write';
import { useSession } from '../../platform/sessions/session';
import { keptDashboards } from './queries';

/** What a page shows before anything was changed on it. */
export type DashboardBase =
  | { kind: 'kept'; dashboard: Dashboard; design: DashboardDesign }
  | { kind: 'ready'; ready: ReadyDashboard; design: DashboardDesign }
  | { kind: 'new'; design: DashboardDesign }
  | { kind: 'gone' };

/** What was changed on the screen and not kept yet, with the version it was changed from. */
interface Draft {
  version: number;
  before: DashboardDesign;
  design: DashboardDesign;
}

/** Tiles that somebody else changed otherwise meanwhile: theirs, and what would be kept. */
export interface Clash {
  keys: readonly string[];
  theirs: Dashboard;
  together: DashboardDesign;
}

export interface ShownDashboard {
  base: DashboardBase;
  design: DashboardDesign;
  isChanged: boolean;
  change: (design: DashboardDesign) => void;
  reset: () => void;
  /** Keeps what was changed, put together with what others changed meanwhile. */
  save: (onSaved: () => void) => void;
  isSaving: boolean;
  clash: Clash | undefined;
  /** Ends a clash: by one's own tiles, or by those of the other. */
  settle: (by: 'mine' | 'theirs', onSaved: () => void) => void;
  isLoading: boolean;
}

const EMPTY: DashboardDesign = { version: 1, tiles: [] };

/** What was changed in this window stays while one looks at the records behind a tile, or reads the page again. */
function draftAt(place: string): Draft | undefined {
  try {
    const text = sessionStorage.getItem(place);
    return text === null ? undefined : (JSON.parse(text) as Draft);
  } catch {
    return undefined;
  }
}

/** The dashboard a page shows, as its address says it, and what was changed on it. */
export function useDashboard(): ShownDashboard {
  const { key = 'new' } = useParams();
  const { me } = useSession();
  const { data: kept, isPending } = useQuery(keptDashboards);
  const base = useMemo<DashboardBase>(() => {
    if (key === 'new') return { kind: 'new', design: EMPTY };
    const ready = readyDashboard(key);
    if (ready) return { kind: 'ready', ready, design: ready.design };
    const dashboard = kept?.find(({ id }) => id === Number(key));
    const design = dashboard && dashboardDesignOf(dashboard);
    return dashboard && design ? { kind: 'kept', dashboard, design } : { kind: 'gone' };
  }, [key, kept]);
  const [drafts, setDrafts] = useState<Record<string, Draft | undefined>>({});
  // Whoever signs in next in this window has changed nothing.
  const place = `zawn-dashboard-${me.id}-${key}`;
  const draft = place in drafts ? drafts[place] : draftAt(place);
  const [clash, setClash] = useState<Clash>();
  const write = useWrite<Dashboard>({ quiet: true });
  const { complain } = useNotices();
  const queryClient = useQueryClient();

  const keep = (next: Draft | undefined) => {
    if (next) sessionStorage.setItem(place, JSON.stringify(next));
    else sessionStorage.removeItem(place);
    setDrafts((all) => ({ ...all, [place]: next }));
  };
  const before = base.kind === 'gone' ? EMPTY : base.design;
  const version = base.kind === 'kept' ? base.dashboard.version : 0;
  const change = (design: DashboardDesign) => {
    const from = draft ?? { version, before };
    const isBack = JSON.stringify(design) === JSON.stringify(from.before);
    keep(isBack ? undefined : { version: from.version, before: from.before, design });
  };
  const put = (id: number, against: number, design: DashboardDesign, onSaved: () => void) =>
    write.mutate(
      {
        method: 'PATCH',
        path: `/dashboards/${id}`,
        version: against,
        body: { design: JSON.stringify(design) },
      },
      {
        onSuccess: () => {
          setClash(undefined);
          keep(undefined);
          onSaved();
        },
        onError: (error) => {
          const theirs = isStale(error);
          const there = theirs && dashboardDesignOf(theirs);
          if (!theirs || !there || !draft) {
            complain(error);
            return;
          }
          const { tiles, clashes } = arrangedTogether(draft.before.tiles, there.tiles, draft.design.tiles);
          const together = { ...there, ...draft.design, tiles };
          if (clashes.length > 0) setClash({ keys: clashes, theirs, together });
          else put(id, theirs.version, together, onSaved);
        },
      },
    );
  return {
    base,
    design: draft?.design ?? before,
    isChanged: draft !== undefined,
    change,
    reset: () => keep(undefined),
    save: (onSaved) => {
      if (base.kind === 'kept' && draft) put(base.dashboard.id, draft.version, draft.design, onSaved);
    },
    isSaving: write.isPending,
    clash,
    settle: (by, onSaved) => {
      if (!clash) return;
      if (by === 'mine') put(clash.theirs.id, clash.theirs.version, clash.together, onSaved);
      else {
        setClash(undefined);
        keep(undefined);
        void queryClient.invalidateQueries({ queryKey: [RECORDS] });
        onSaved();
      }
    },
    isLoading: isPending,
  };
}

/** The dashboard as somebody else kept it meanwhile, where that is why a write was refused. */
function isStale(error: unknown): Dashboard | undefined {
  if (!(error instanceof ApiProblem) || error.problem.type !== '/problems/stale-version') return undefined;
  return error.problem.current as Dashboard | undefined;
}
