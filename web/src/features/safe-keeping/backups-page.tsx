import { useMutation, useQuery } from '@tanstack/react-query';
import { type Backups } from '@zawn/core';
import { Alert, Button } from 'antd';
import { call } from '../../platform/api/client';
import { RECORDS } from '../../platform/api/queries';
import { useNotices } from '../../platform/api/use-write';
import { clock, counted, nearDate, size } from '../../platform/frame/format';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import './safe-keeping.css';

/** The commands by which one helps oneself, where nothing is kept by itself and when one is brought back. */
const COMMANDS = [
  ['npm run backup -- FILE', 'keeps everything in one file, while Zawn runs'],
  ['npm run restore -- FILE', 'brings it back; what is there then is kept aside'],
  ['npm run check', 'looks through the data and mends what can be mended'],
] as const;

/** Minutes in the largest unit that they are at least two of. */
const spanInWords = (minutes: number) =>
  minutes >= 2 * 1440
    ? counted(Math.round(minutes / 1440), 'day')
    : minutes >= 120
      ? counted(Math.round(minutes / 60), 'hour')
      : counted(minutes, 'minute');

/** The backups that are kept, and how one is made and brought back. */
export function Component() {
  const { today, dayOf, timeZone } = useSession();
  const { complain } = useNotices();
  const { data, error, refetch } = useQuery({
    queryKey: [RECORDS, 'backups'],
    queryFn: () => call<Backups>('GET', '/backups'),
  });
  const make = useMutation({
    mutationFn: () => call<Backups>('POST', '/backups'),
    onError: complain,
    onSettled: () => refetch(),
  });
  const when = (at: string) => `${nearDate(dayOf(at), today)}, ${clock(at, timeZone)}`;
  return (
    <>
      <header className="page-head">
        <h1>Backups</h1>
        {data?.folder && (
          <span className="page-count">
            {counted(data.kept.length, 'backup')} of the last {data.keeps} nights, in {data.folder}
          </span>
        )}
        <div className="page-tools">
          {data?.folder && (
            <Button type="primary" loading={make.isPending || data.isMaking} onClick={() => make.mutate()}>
              Back up now
            </Button>
          )}
        </div>
      </header>
      {error ? (
        <Trouble error={error} retry={() => void refetch()} />
      ) : !data ? (
        <Skeleton rows={5} />
      ) : (
        <div className="backups">
          {data.clockBehind !== null && (
            <Alert
              type="warning"
              title={`The clock of the machine stands ${spanInWords(data.clockBehind)} before the last change. Set it right: what is written now would stand before what was written already.`}
              role="alert"
            />
          )}
          {data.failure !== null && (
            <Alert type="error" title={`The last backup did not come off: ${data.failure}`} role="alert" />
          )}
          {data.folder === null ? (
            <Empty title="Zawn makes no backups by itself here.">
              <p>
                Start it with <code>ZAWN_BACKUPS</code> set to a folder, best on another disk: it then makes
                one each night and keeps the last fourteen.
              </p>
            </Empty>
          ) : data.kept.length === 0 ? (
            <Empty title="No backup yet.">
              <p>One is made each night. Make the first now.</p>
            </Empty>
          ) : (
            <ul aria-label="Backups">
              {data.kept.map(({ name, at, bytes }) => (
                <li key={name}>
                  <b>{when(at)}</b>
                  <span className="second figure">{size(bytes)}</span>
                  <code className="second clip">{name}</code>
                </li>
              ))}
            </ul>
          )}
          <h2>By hand, on the machine that Zawn runs on</h2>
          <dl>
            {COMMANDS.map(([command, does]) => (
              <div key={command}>
                <dt>
                  <code>{command}</code>
                </dt>
                <dd>{does}</dd>
              </div>
            ))}
          </dl>
        </div>
      )}
    </>
  );
}
