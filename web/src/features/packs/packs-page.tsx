import { useQuery } from '@tanstack/react-query';
import { readyPacks, type Pack } from '@zawn/core';
import { Button } from 'antd';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { date } from '../../platform/frame/format';
import { Empty } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import '../reports/reports.css';
import { KeepPack } from './keep-pack';
import { keptPacks } from './queries';

interface Entry {
  key: string;
  name: string;
  about: string;
  whose?: string;
}

/** Every meeting pack there is: one's own, those shared with one, and the ready-made one. */
export function Component() {
  const { me, person } = useSession();
  const { data: kept } = useQuery(keptPacks);
  const [isMaking, setMaking] = useState(false);
  const entryOf = (pack: Pack): Entry => ({
    key: String(pack.id),
    name: pack.name,
    about: pack.meetsOn ? `Meeting on ${date(pack.meetsOn)}` : 'No day is set',
    ...(pack.owner === me.id ? {} : { whose: person(pack.owner)?.name ?? 'someone who left' }),
  });
  const mine = (kept ?? []).filter(({ owner }) => owner === me.id).map(entryOf);
  const shared = (kept ?? []).filter(({ owner }) => owner !== me.id).map(entryOf);
  const shelves: [string, readonly Entry[]][] = [
    ['My own', mine],
    ['Shared with me', shared],
    ['Ready-made', readyPacks],
  ];
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
        {shelves
          .filter(([, entries]) => entries.length > 0)
          .map(([shelf, entries]) => (
            <section key={shelf} aria-label={shelf} className="report-shelf">
              <h2>{shelf}</h2>
              <ul>
                {entries.map(({ key, name, about, whose }) => (
                  <li key={key}>
                    <Link to={`/packs/${key}`}>{name}</Link>
                    {whose && <span className="second"> {whose}’s</span>}
                    <p className="second">{about}</p>
                  </li>
                ))}
              </ul>
            </section>
          ))}
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
