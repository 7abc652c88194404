import { useEffect, useEffectEvent } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { useSession } from '../../platform/sessions/session';

/** Whoever opens Zawn without saying where, and begins with a dashboard, comes to that. */
export function useHome(): void {
  const { pathname } = useLocation();
  const { home } = useSession().preferences;
  const navigate = useNavigate();
  const begin = useEffectEvent(() => {
    if (pathname === '/' && home) void navigate(`/dashboards/${home}`, { replace: true });
  });
  useEffect(() => begin(), []);
}
