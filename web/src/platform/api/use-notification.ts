import { App } from 'antd';
import { useMemo, type ReactNode } from 'react';

/** What notices are about; of each kind one stands at a time. */
export type NotificationKind = 'written' | 'undone' | 'problem' | 'job' | 'news';

interface Notification {
  title: ReactNode;
  description?: ReactNode;
  actions?: ReactNode;
  /** Seconds it stands; 0 until it is closed. */
  duration?: number;
}

const SECONDS = 9;

/** How many of each kind were closed: one that is just fading is not opened again by its name. */
const closed: Record<NotificationKind, number> = { written: 0, undone: 0, problem: 0, job: 0, news: 0 };
const nameOf = (kind: NotificationKind) => `${kind}-${closed[kind]}`;

/** Opens and closes notices; one that is opened takes the place of the one of its kind that stands. */
export function useNotification() {
  const { notification } = App.useApp();
  return useMemo(() => {
    const close = (kind: NotificationKind) => {
      notification.destroy(nameOf(kind));
      closed[kind] += 1;
    };
    const open = (kind: NotificationKind, { duration = SECONDS, ...shown }: Notification) => {
      // Under the name of the one before it would stand only for what is left of that one's time.
      if (duration > 0) close(kind);
      const key = nameOf(kind);
      const onClose = () => {
        if (key === nameOf(kind)) closed[kind] += 1;
      };
      const className = kind === 'problem' ? 'notice notice-problem' : 'notice';
      const type = kind === 'problem' ? { type: 'error' as const } : {};
      notification.open({ ...shown, ...type, key, duration, className, onClose });
    };
    return { open, close };
  }, [notification]);
}
