import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query';
import { type ImportLook, type ImportBucket, type ImportPreview, type ImportSummary } from '@zawn/core';
import { guessType, takesSeveral, type ImportSetup, type TargetKey } from '@zawn/core/imports';
import { Button } from 'antd';
import { useCallback, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { call } from '../../platform/api/client';
import { useNotices, useWrite } from '../../platform/api/use-write';
import { counted, nearDate } from '../../platform/frame/format';
import { Empty, Skeleton } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { Chooser, type Chosen } from './chooser';
import { type Doubt } from './doubts';
import { Examples } from './examples';
import { FileTable } from './file-table';
import { History } from './history';
import { ImportRun } from './import-run';
import './imports.css';
import { customFieldFor } from './new-field';
import { columnsAfter } from './split-choices';
import { SetupPanel } from './setup-panel';
import { useFirstLook } from './use-first-look';

/** One page for an import: the file’s own rows under field pickers, and beside them what will happen. */
export function Component() {
  const { catalogue, policy, today, dayOf } = useSession();
  const { complain } = useNotices();
  const [parameters, setParameters] = useSearchParams();
  const run = Number(parameters.get('run')) || undefined;
  const [chosen, setChosen] = useState<Chosen>();
  const [look, setLook] = useState<ImportLook>();
  const [setup, setSetup] = useState<ImportSetup>();
  const [bucket, setBucket] = useState<ImportBucket>();
  const [agreed, setAgreed] = useState<ReadonlySet<Doubt>>(new Set());
  const first = useFirstLook(look ? undefined : chosen?.file);
  /** @param isSplit the columns are other ones, and all else that was chosen stays. */
  const take = (seen: ImportLook, isSplit = false) => {
    setLook(seen);
    setSetup((before) => {
      if (!isSplit || !before || !look) return seen.setup;
      return { ...before, reading: seen.setup.reading, columns: columnsAfter(look, before, seen) };
    });
  };
  const handIn = useMutation({
    mutationFn: ({ name, file }: Chosen) =>
      call<ImportLook>('POST', `/imports/files?name=${encodeURIComponent(name)}`, { file }),
    onSuccess: (seen) => take(seen),
  });
  const again = useMutation({
    mutationFn: (as: { target?: TargetKey; reading?: ImportSetup['reading'] }) => {
      const { file, fileName, target } = look as ImportLook;
      const reading = setup?.reading ?? {};
      return call<ImportLook>('POST', '/imports/look', { body: { file, fileName, target, reading, ...as } });
    },
    onSuccess: (seen, { reading }) => take(seen, reading?.split !== undefined),
    onError: complain,
  });
  const file = look?.file;
  const preview = useQuery({
    queryKey: ['import preview', file, setup],
    queryFn: ({ signal }) =>
      call<ImportPreview>('POST', '/imports/preview', { body: { file, setup }, signal }),
    enabled: file !== undefined && setup !== undefined && run === undefined,
    placeholderData: (before, query) => (query?.queryKey[1] === file ? keepPreviousData(before) : undefined),
  });
  const begin = useMutation({
    mutationFn: () =>
      call<ImportSummary>('POST', '/imports', { body: { file, fileName: look?.fileName, setup } }),
    onSuccess: ({ id }) => setParameters({ run: String(id) }),
    onError: complain,
  });
  const write = useWrite<{ key: string }>();

  const reset = () => {
    setChosen(undefined);
    setLook(undefined);
    setSetup(undefined);
    setBucket(undefined);
    setAgreed(new Set());
    handIn.reset();
    setParameters({});
  };
  const { mutate: send } = handIn;
  const choose = useCallback(
    (next: Chosen) => {
      setChosen(next);
      send(next);
    },
    [send],
  );
  const isJoined = (path: string | null) =>
    path !== null && setup !== undefined && takesSeveral(catalogue, setup.target, path);
  const change = (part: Partial<ImportSetup>) => setSetup((before) => before && { ...before, ...part });
  const point = (column: number, path: string | null) =>
    // A field is filled by one column: pointing another at it takes it from the first, unless it holds text, which is
    // joined.
    change({
      columns: (setup?.columns ?? []).map((before, index) =>
        index === column ? path : before === path && !isJoined(path) ? null : before,
      ),
    });
  const makeField = (column: number) => {
    if (!setup || !shown) return;
    const heading = shown.table.headings[column];
    const values = shown.table.rows.map(({ cells }) => cells[column] ?? '');
    const field = customFieldFor(setup.target, heading, guessType(values).value, values);
    write.mutate(
      { method: 'POST', path: '/custom-fields', body: field },
      { onSuccess: () => point(column, field.key) },
    );
  };

  const shown = look ?? first;
  const settled = setup ?? first?.setup;
  const { data } = preview;
  const error = handIn.error ?? (data ? null : preview.error);
  if (run !== undefined) {
    return (
      <>
        <header className="page-head">
          <h1>Import</h1>
        </header>
        <ImportRun key={run} id={run} again={reset} />
      </>
    );
  }
  return (
    <>
      <header className="page-head">
        <h1>{chosen ? chosen.name : 'Import'}</h1>
        {shown && (
          <span className="page-count">
            {counted((look ?? data)?.table.rowCount ?? shown.table.rowCount, 'row')}
            {!look && ', still being read'}
          </span>
        )}
        {look?.before && (
          <span className="attention">
            This very file was <Link to={`/imports?run=${look.before.id}`}>imported</Link> before,{' '}
            {nearDate(dayOf(look.before.at), today)}.
          </span>
        )}
        {chosen && (
          <div className="page-tools">
            <Button onClick={reset}>Choose another file</Button>
          </div>
        )}
      </header>
      {!chosen && (
        <div className="import-start">
          <Chooser choose={choose} />
          <History />
        </div>
      )}
      {error && (
        <Empty title="This file cannot be read.">
          <p role="alert">{error.message}</p>
          <Button onClick={reset}>Choose another file</Button>
        </Empty>
      )}
      {chosen && !error && !(shown && settled) && <Skeleton rows={10} />}
      {shown && settled && !error && (
        <div className="import-page">
          {bucket && file ? (
            <Examples file={file} setup={settled} bucket={bucket} back={() => setBucket(undefined)} />
          ) : (
            <FileTable
              table={shown.table}
              setup={settled}
              guesses={shown.guess.columns}
              refused={data?.refused ?? []}
              notes={data?.notes ?? []}
              point={point}
              makeField={policy.may('setUpFields') ? makeField : undefined}
              split={look && ((split) => again.mutate({ reading: { ...settled.reading, split } }))}
            />
          )}
          <SetupPanel
            table={shown.table}
            setup={settled}
            conventions={data?.conventions ?? shown.guess}
            counts={data?.counts}
            unknown={data?.unknown ?? []}
            hints={data?.hints ?? []}
            troubles={[...(data?.refused ?? []), ...(data?.notes ?? [])]}
            isCounting={preview.isFetching || again.isPending}
            isStarting={begin.isPending}
            agreed={agreed}
            agree={(doubt) => setAgreed((before) => new Set([...before, doubt]))}
            change={change}
            reread={(as) => again.mutate(as)}
            show={setBucket}
            start={() => begin.mutate()}
          />
        </div>
      )}
    </>
  );
}
