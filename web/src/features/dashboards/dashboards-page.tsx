import { useQuery } from '@tanstack/react-query';
import { readyDashboards, type Dashboard } from '@zawn/core';
import { Button } from 'antd';
import { House, Plus } from 'lucide-react';
import { Link, useNavigate } from 'react-router';
import { Empty } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { keptDashboards } from './queries';
import '../reports/reports.css';

interface Entry {
  key: string;
  name: string;
  about: string | null;
  whose?: string;
}

/** Every dashboard there is: one's own first, then those shared with one, then those that come with Zawn. */
export function Component() {
  const { me, person, preferences } = useSession();
  const { data: kept } = useQuery(keptDashboards);
  const navigate = useNavigate();
  const entryOf = (dashboard: Dashboard): Entry => ({
    key: String(dashboard.id),
    name: dashboard.name,
    about: dashboard.about ?? null,
    ...(dashboard.owner === me.id ? {} : { whose: person(dashboard.owner)?.name ?? 'someone who left' }),
  });
  const mine = (kept ?? []).filter(({ owner }) => owner === me.id).map(entryOf);
  const shared = (kept ?? []).filter(({ owner }) => owner !== me.id).map(entryOf);
  const shelves: [string, readonly Entry[]][] = [
    ['My own', mine],
    ['Shared with me', shared],
    ['Ready-made', readyDashboards],
  ];
  return (
    <>
      <header className="page-head">
        <h1>Dashboards</h1>
        <div className="page-tools">
          <Button type="primary" icon={<Plus size={15} />} onClick={() => void navigate('/dashboards/new')}>
            New dashboard
          </Button>
        </div>
      </header>
      <div className="report-shelves">
        {kept?.length === 0 && (
          <Empty title="No dashboard of your own yet.">
            <p>Begin with a ready-made one and save it as your own, or start with an empty one.</p>
          </Empty>
        )}
        {shelves
          .filter(([, entries]) => entries.length > 0)
          .map(([shelf, entries]) => (
            <section key={shelf} aria-label={shelf} className="report-shelf">
              <h2>{shelf}</h2>
              <ul>
                {entries.map(({ key, name, about, whose }) => (
                  <li key={key}>
                    <Link to={`/dashboards/${key}`}>{name}</Link>
                    {whose && <span className="second"> {whose}’s</span>}
                    {preferences.home === key && (
                      <span className="second">
                        {' '}
                        <House size={12} aria-hidden /> Zawn opens with it
                      </span>
                    )}
                    {about && <p className="second">{about}</p>}
                  </li>
                ))}
              </ul>
            </section>
          ))}
      </div>
    </>
  );
}
