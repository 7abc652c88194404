import { useMutation, useQuery } from '@tanstack/react-query';
import {
  builtIn,
  fieldOf,
  objectType,
  type ImportPreview,
  type ImportReport,
  type ImportRequest,
  type ImportSummary,
  type Written,
} from '@zawn/core';
import { Button, Select } from 'antd';
import { FileUp } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Link } from 'react-router';
import { call } from '../api/client';
import { RECORDS } from '../api/queries';
import { useNotices, useWrite } from '../api/use-write';
import { counted, nearDate, number } from '../frame/format';
import { Empty } from '../frame/states';
import { useSession } from '../sessions/session';
import { FileTable } from './file-table';
import './imports.css';

interface ChosenFile {
  name: string;
  text: string;
}

function History() {
  const { today } = useSession();
  const { undo } = useNotices();
  const { data } = useQuery({
    queryKey: [RECORDS, 'imports'],
    queryFn: () => call<{ imports: ImportSummary[] }>('GET', '/imports'),
  });
  if (!data || data.imports.length === 0) return null;
  return (
    <section className="import-history" aria-label="Earlier imports">
      <h2>Earlier imports</h2>
      <ul>
        {data.imports.map(({ id, at, fileName, unit, created, skipped, refused }) => (
          <li key={id}>
            <span className="clip">{fileName}</span>
            <span className="second">{nearDate(at.slice(0, 10), today)}</span>
            <span>
              {number(created)} created, {number(skipped)} skipped, {number(refused)} refused
            </span>
            <Button size="small" onClick={() => void undo(unit)}>
              Undo
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Chooser({ choose }: { choose: (file: ChosenFile) => void }) {
  const input = useRef<HTMLInputElement>(null);
  const [isOver, setOver] = useState(false);
  const read = (files: FileList | null) => {
    const file = files?.[0];
    if (file) void file.text().then((text) => choose({ name: file.name, text }));
  };
  return (
    <div
      className={`import-drop ${isOver ? 'import-over' : ''}`}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        read(event.dataTransfer.files);
      }}
    >
      <FileUp size={26} aria-hidden />
      <p className="empty-title">Drop a CSV file with leads here</p>
      <p className="second">The first row holds the column names. Nothing is written until you say so.</p>
      <Button type="primary" onClick={() => input.current?.click()}>
        Choose a file
      </Button>
      <input
        ref={input}
        type="file"
        accept=".csv,.txt,.tsv,text/csv"
        aria-label="File with leads"
        hidden
        onChange={(event) => read(event.target.files)}
      />
    </div>
  );
}

function Report({ report, again }: { report: Written<ImportReport>; again: () => void }) {
  const { id, created, skipped, refused } = report.value;
  return (
    <div className="empty" role="status">
      <p className="empty-title">
        {counted(created, 'lead')} created, {number(skipped)} skipped, {number(refused)} refused.
      </p>
      <p className="import-after">
        <Link to="/leads?sort=createdAt.down">See the leads</Link>
        {refused > 0 && <Button href={`/api/v1/imports/${id}/refused`}>Save the refused rows</Button>}
        <Button onClick={again}>Import another file</Button>
      </p>
    </div>
  );
}

/** One page for an import: the file's own rows under field pickers, and beside them what will happen. */
export function Component() {
  const { me, people } = useSession();
  const [file, setFile] = useState<ChosenFile>();
  const [columns, setColumns] = useState<(string | null)[]>();
  const [owner, setOwner] = useState(me.id);
  const [report, setReport] = useState<Written<ImportReport>>();
  const request = useMemo<ImportRequest | undefined>(
    () => file && { fileName: file.name, text: file.text, owner, ...(columns ? { columns } : {}) },
    [file, owner, columns],
  );
  const look = useMutation({
    mutationFn: (body: ImportRequest) => call<ImportPreview>('POST', '/imports/preview', { body }),
  });
  const run = useWrite<ImportReport>();
  const { mutate } = look;
  useEffect(() => {
    if (request) mutate(request);
  }, [request, mutate]);
  const preview = look.data;

  const reset = () => {
    setFile(undefined);
    setColumns(undefined);
    setReport(undefined);
    look.reset();
  };
  const point = (column: number, key: string | null) => {
    const before = preview?.columns ?? [];
    // A field is filled by one column: pointing another at it takes it from the first.
    setColumns(before.map((field, index) => (index === column ? key : field === key ? null : field)));
  };
  const write = () => {
    if (!request || !preview) return;
    run.mutate(
      { method: 'POST', path: '/imports', body: { ...request, columns: preview.columns } },
      { onSuccess: setReport },
    );
  };

  const unmatched = preview?.columns.filter((key) => key === null).length ?? 0;
  const missing =
    preview && !preview.columns.includes('name') ? fieldOf(builtIn, 'lead', 'name')?.label : undefined;
  return (
    <>
      <header className="page-head">
        <h1>{file ? file.name : 'Import leads'}</h1>
        {preview && <span className="page-count">{counted(preview.rowCount, 'row')}</span>}
        {file && !report && (
          <div className="page-tools">
            <Button onClick={reset}>Choose another file</Button>
          </div>
        )}
      </header>
      {!file && (
        <div className="import-start">
          <Chooser choose={setFile} />
          <History />
        </div>
      )}
      {file && look.error && (
        <Empty title="This file cannot be read.">
          <p role="alert">{look.error.message}</p>
          <Button onClick={reset}>Choose another file</Button>
        </Empty>
      )}
      {report && <Report report={report} again={reset} />}
      {file && preview && !report && !look.error && (
        <div className="import-page">
          <FileTable preview={preview} point={point} />
          <aside className="import-side" aria-label="What will happen">
            <dl>
              <div>
                <dt>{number(preview.create)}</dt>
                <dd>{preview.create === 1 ? 'lead' : 'leads'} to create</dd>
              </div>
              <div>
                <dt>{number(preview.skippedRows)}</dt>
                <dd>skipped, there already</dd>
              </div>
              <div className={preview.refusedRows > 0 ? 'attention late' : ''}>
                <dt>{number(preview.refusedRows)}</dt>
                <dd>refused, marked in the rows</dd>
              </div>
            </dl>
            <label className="import-option">
              Owner
              <Select
                value={owner}
                onChange={setOwner}
                showSearch={{ optionFilterProp: 'label' }}
                options={people
                  .filter(({ active }) => active)
                  .map((person) => ({ value: person.id, label: person.name }))}
              />
            </label>
            <p className="second">An owner column in the file goes first.</p>
            {unmatched > 0 && (
              <p className="attention">
                {counted(unmatched, 'column')} left out. Point them at a field above the rows.
              </p>
            )}
            {missing && <p className="attention late">No column fills {missing}, so no row can go in.</p>}
            <Button
              type="primary"
              block
              size="large"
              disabled={preview.create === 0}
              loading={run.isPending}
              onClick={write}
            >
              {preview.create === 0
                ? 'Nothing to create'
                : `Create ${counted(preview.create, objectType('lead').label.toLowerCase())}`}
            </Button>
            {preview.refused.length > 0 && (
              <ul className="import-reasons">
                {preview.refused.slice(0, 12).map(({ row, reason }, index) => (
                  <li key={index}>
                    <b>Row {row}</b> {reason}
                  </li>
                ))}
              </ul>
            )}
          </aside>
        </div>
      )}
    </>
  );
}
