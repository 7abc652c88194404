import { useQuery } from '@tanstack/react-query';
import { ask, objectType, type AnyRecord, type CallListProgress, type SubjectKey } from '@zawn/core';
import { App, Button } from 'antd';
import { Phone, RotateCcw, Trash2 } from 'lucide-react';
import { Link } from 'react-router';
import { call } from '../../platform/api/client';
import { allRecords, RECORDS } from '../../platform/api/queries';
import { useNotices, useWrite } from '../../platform/api/use-write';
import { counted, number } from '../../platform/frame/format';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { useCallNext } from './call-next';
import './lists.css';

const lists = { ...ask('callList'), sort: [{ field: 'id', descending: true }] };

/** One call list: how far it is, and the way on. */
function CallList({ list }: { list: AnyRecord }) {
  const { me, person } = useSession();
  const { modal } = App.useApp();
  const { complain } = useNotices();
  const write = useWrite();
  const callNext = useCallNext();
  const { data, refetch } = useQuery({
    queryKey: [RECORDS, 'call list', list.id],
    queryFn: ({ signal }) => call<CallListProgress>('GET', `/call-lists/${list.id}/progress`, { signal }),
  });
  const again = async () => {
    const isMeant = await modal.confirm({
      title: `Start “${String(list.name)}” over?`,
      content: 'Everybody on it waits to be called again. Calls that were made stay.',
      okText: 'Start over',
    });
    if (!isMeant) return;
    await call('POST', `/call-lists/${list.id}/again`).catch(complain);
    void refetch();
  };
  const passes = [
    typeof list.passReached === 'number' &&
      `passes over whom we reached within ${counted(list.passReached, 'day')}`,
    list.officeHours === true && 'only while offices are open there',
  ].filter(Boolean);
  const { plural } = objectType(list.object as SubjectKey);
  return (
    <li>
      <div>
        <h2>{String(list.name)}</h2>
        <p className="second">
          {[plural, list.owner === me.id ? 'yours' : person(Number(list.owner))?.name, ...passes].join(', ')}
        </p>
      </div>
      <div className="list-progress">
        <span
          className="rate-bar"
          role="img"
          aria-label="How far it is"
          style={{ ['--share' as string]: `${data ? (100 * data.called) / Math.max(1, data.count) : 0}%` }}
        />
        <span className="second">{data ? `${number(data.called)} of ${number(data.count)} called` : ''}</span>
      </div>
      <Button
        type="primary"
        icon={<Phone size={14} />}
        disabled={data?.waiting === 0}
        onClick={() => void callNext(list.id)}
      >
        {data && data.called > 0 ? 'Go on calling' : 'Begin calling'}
      </Button>
      <Button
        type="text"
        icon={<RotateCcw size={15} />}
        disabled={data?.called === 0}
        onClick={() => void again()}
        aria-label={`Start ${String(list.name)} over`}
        title="Start over"
      />
      <Button
        type="text"
        icon={<Trash2 size={15} />}
        disabled={list.owner !== me.id}
        onClick={() =>
          write.mutate({ method: 'DELETE', path: `/call-lists/${list.id}`, version: list.version })
        }
        aria-label={`Delete ${String(list.name)}`}
        title="Delete"
      />
    </li>
  );
}

/** The call lists that are one's own or shared with one. */
export function Component() {
  const { data, error, refetch } = useQuery(allRecords(lists));
  return (
    <div className="call-lists">
      <header className="page-head">
        <h1>Call lists</h1>
        <span className="page-count">one after the other, each called once</span>
      </header>
      {error ? (
        <Trouble error={error} retry={() => void refetch()} />
      ) : !data ? (
        <Skeleton rows={5} />
      ) : data.rows.length === 0 ? (
        <Empty title="No call list yet.">
          <p>
            Open a view of the people you want to call and choose <b>Call one after the other</b> behind its
            three dots.
          </p>
          <Link to="/leads">See the leads</Link> <Link to="/contacts">See the contacts</Link>
        </Empty>
      ) : (
        <ul>
          {data.rows.map((list) => (
            <CallList key={list.id} list={list} />
          ))}
        </ul>
      )}
    </div>
  );
}
