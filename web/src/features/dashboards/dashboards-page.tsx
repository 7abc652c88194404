import { useQuery } from '@tanstack/react-query';
import { readyDashboards } from '@zawn/core';
import { Button } from 'antd';
import { House, Plus } from 'lucide-react';
import { useNavigate } from 'react-router';
import { Shelves, useOwnAndShared } from '../../kernel/views/shelves';
import { Empty } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { keptDashboards } from './queries';
import '../reports/reports.css';

/** Every dashboard there is: one's own first, then those shared with one, then those that come with Zawn. */
export function Component() {
  const { preferences } = useSession();
  const { data: kept } = useQuery(keptDashboards);
  const navigate = useNavigate();
  const own = useOwnAndShared(kept ?? [], ({ about }) => about ?? null);
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
        <Shelves
          shelves={[...own, ['Ready-made', readyDashboards]]}
          path="/dashboards"
          also={(key) =>
            preferences.home === key && (
              <span className="second">
                {' '}
                <House size={12} aria-hidden /> Zawn opens with it
              </span>
            )
          }
        />
      </div>
    </>
  );
}
