import { useQuery } from '@tanstack/react-query';
import { objectType } from '@zawn/core';
import { Bookmark, ListTodo } from 'lucide-react';
import { Link, useLocation } from 'react-router';
import { savedViews } from '../../platform/api/queries';
import { useSession } from '../../platform/sessions/session';

/** The views and lists that the person pinned, in the rail under everything else. */
export function Pinned() {
  const { preferences } = useSession();
  const { data } = useQuery(savedViews);
  const { pathname, search } = useLocation();
  const pinned = (preferences.pinned ?? []).flatMap((pin) => {
    const [kind, id] = pin.split('-');
    const found = (kind === 'view' ? data?.views : data?.lists)?.find((each) => each.id === Number(id));
    return found
      ? [{ pin, kind, name: found.name, path: `/${objectType(found.object).path}`, query: `${kind}=${id}` }]
      : [];
  });
  if (pinned.length === 0) return null;
  return (
    <div className="rail-group">
      <span className="rail-title">Pinned</span>
      {pinned.map(({ pin, kind, name, path, query }) => {
        const isHere = pathname === path && new URLSearchParams(search).toString().startsWith(query);
        const Icon = kind === 'view' ? Bookmark : ListTodo;
        return (
          <Link key={pin} to={`${path}?${query}`} className={isHere ? 'active' : ''} title={name}>
            <Icon size={16} aria-hidden />
            <span className="clip">{name}</span>
          </Link>
        );
      })}
    </div>
  );
}
