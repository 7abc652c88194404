import { useQuery } from '@tanstack/react-query';
import { readyPacks } from '@zawn/core';
import { Button } from 'antd';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { Shelves, useOwnAndShared } from '../../kernel/views/shelves';
import { date } from '../../platform/frame/format';
import { Empty } from '../../platform/frame/states';
import '../reports/reports.css';
import { KeepPack } from './keep-pack';
import { keptPacks } from './queries';

/** Every meeting pack there is: one's own, those shared with one, and the ready-made one. */
export function Component() {
  const { data: kept } = useQuery(keptPacks);
  const [isMaking, setMaking] = useState(false);
  const own = useOwnAndShared(kept ?? [], ({ meetsOn }) =>
    meetsOn ? `Meeting on ${date(meetsOn)}` : 'No day is set',
  );
  return (
    <>
      <header className="page-head">
        <h1>Meeting packs</h1>
        <div className="page-tools">
          <Button type="primary" icon={<Plus size={15} />} onClick={() => setMaking(true)}>
            New pack
          </Button>
        </div>
      </header>
      <div className="report-shelves">
        {kept?.length === 0 && (
          <Empty title="No meeting pack yet.">
            <p>Begin with the ready-made one for the monthly meeting, or with an empty one.</p>
          </Empty>
        )}
        <Shelves shelves={[...own, ['Ready-made', readyPacks]]} path="/packs" />
      </div>
      {isMaking && (
        <KeepPack
          title="A new meeting pack"
          name=""
          design={{ version: 1, pages: [] }}
          close={() => setMaking(false)}
        />
      )}
    </>
  );
}
