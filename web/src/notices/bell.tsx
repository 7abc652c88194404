import { useQuery } from '@tanstack/react-query';
import { App } from 'antd';
import { Bell as BellIcon } from 'lucide-react';
import { createElement, useEffect, useRef } from 'react';
import { Link } from 'react-router';
import { latestNotices } from '../api/queries';
import { counted } from '../frame/format';

const SECONDS = 9;

/** The bell in the bar: how much is unread, and what comes in while one looks on. */
export function Bell() {
  const { data } = useQuery(latestNotices);
  const { notification } = App.useApp();
  const known = useRef<number>(undefined);
  const newest = data?.notices[0];
  useEffect(() => {
    if (!data) return;
    const before = known.current;
    known.current = newest?.id ?? 0;
    // What was there when the page was opened is no news.
    if (before === undefined || !newest || newest.id <= before || newest.readAt !== null) return;
    notification.open({
      key: 'notice',
      title: createElement(
        Link,
        { to: newest.path, onClick: () => notification.destroy('notice') },
        newest.text,
      ),
      duration: SECONDS,
      className: 'notice',
    });
  }, [data, newest, notification]);
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
