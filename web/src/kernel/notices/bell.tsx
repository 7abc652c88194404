import { useQuery } from '@tanstack/react-query';
import { Bell as BellIcon } from 'lucide-react';
import { createElement, useEffect, useRef, type MouseEvent } from 'react';
import { Link, useNavigate } from 'react-router';
import { latestNotices } from '../../platform/api/queries';
import { useNotification } from '../../platform/api/use-notification';
import { counted } from '../../platform/frame/format';
import { usePreferences } from '../../platform/sessions/use-preferences';

const REMINDER_SECONDS = 60;

/** The bell in the bar: how much is unread, and what comes in while one looks on. */
export function Bell() {
  const { data } = useQuery(latestNotices);
  const notification = useNotification();
  const navigate = useNavigate();
  const [{ inBrowser }] = usePreferences();
  const known = useRef<number>(undefined);
  const newest = data?.rows[0];
  useEffect(() => {
    if (!data) return;
    const before = known.current;
    known.current = newest?.id ?? 0;
    // What was there when the page was opened is no news.
    if (before === undefined || !newest || newest.id <= before || newest.readAt !== null) return;
    if (document.hidden && inBrowser?.includes(newest.kind))
      void import('./in-browser').then(({ showInBrowser }) =>
        showInBrowser(newest, (path) => void navigate(path)),
      );
    const follow = (event: MouseEvent) => {
      event.preventDefault();
      notification.close('news');
      void navigate(newest.path);
    };
    notification.open('news', {
      // Notices stand outside the router, so the link is followed by hand.
      title: createElement('a', { href: newest.path, onClick: follow }, newest.text),
      // What is of use now stands until it is seen.
      ...(newest.kind === 'dueSoon' ? { duration: REMINDER_SECONDS } : {}),
    });
  }, [data, newest, notification, navigate, inBrowser]);
  const unread = data?.unread ?? 0;
  return (
    <Link
      to="/notices"
      className="bar-button bell"
      aria-label={unread > 0 ? `Notices, ${counted(unread, 'unread', 'unread')}` : 'Notices'}
    >
      <BellIcon size={17} aria-hidden />
      {unread > 0 && (
        <span className="bell-count" aria-hidden>
          {unread > 99 ? '99+' : unread}
        </span>
      )}
    </Link>
  );
}
