import { useQuery } from '@tanstack/react-query';
import { fieldsOf, objectType, type Field, type SubjectKey } from '@zawn/core';
import { Suspense, useState } from 'react';
import { ApiProblem } from '../../platform/api/client';
import { oneRecord } from '../../platform/api/queries';
import { RecordFiles, useAddFiles } from '../files/record-files';
import { useShortcuts } from '../../platform/frame/shortcuts';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { useBrought, type SheetProps } from '../shell/feature';
import { Composer } from '../timeline/composer';
import { Timeline } from '../timeline/timeline';
import { Fact } from './fact';
import { layouts } from './layouts';
import './record-view.css';

function Facts({
  object,
  record,
  names,
  readOnly,
}: Omit<SheetProps, 'write' | 'may'> & { readOnly: boolean }) {
  const { catalogue } = useSession();
  const fields: Record<string, Field | undefined> = Object.fromEntries(fieldsOf(catalogue, object));
  const own = Object.entries(catalogue.custom[object] ?? {});
  const ownSections = [...new Set(own.map(([, { section = 'More' }]) => section))].map((title) => ({
    title,
    fields: own.filter(([, { section = 'More' }]) => section === title).map(([key]) => key),
  }));
  const isShown = (key: string) => {
    const field = fields[key];
    // What only a feature can set is shown once it has been.
    return key === 'createdAt' || (field && (field.set !== 'feature' || record[key] !== null));
  };
  return (
    <div className="facts">
      {[...layouts[object].sections, ...ownSections].map(({ title, fields: keys }) => {
        const shown = keys.filter(isShown);
        return shown.length === 0 ? null : (
          <section key={title}>
            <h3>{title}</h3>
            <dl>
              {shown.map((key) => (
                <div key={key} className="fact">
                  <dt>{key === 'createdAt' ? 'Created' : fields[key]?.label}</dt>
                  <dd>
                    <Fact object={object} fieldKey={key} record={record} names={names} readOnly={readOnly} />
                  </dd>
                </div>
              ))}
            </dl>
          </section>
        );
      })}
    </div>
  );
}

/** A record whole: its head, the next step, its timeline, and its facts edited where they are read. */
export function RecordView({ object, id }: { object: SubjectKey; id: number }) {
  return (
    <Suspense key={`${object} ${id}`} fallback={<Skeleton rows={9} />}>
      <RecordWhole object={object} id={id} />
    </Suspense>
  );
}

function RecordWhole({ object, id }: { object: SubjectKey; id: number }) {
  const { data, error, refetch } = useQuery(oneRecord(object, id));
  const [tab, setTab] = useState<string>();
  const parts = useBrought('sheets').flatMap((sheets) => sheets[object] ?? []);
  const forms = useBrought('forms');
  const [isOver, setOver] = useState(false);
  const { add: addFiles } = useAddFiles(object, id);
  useShortcuts('Record', [
    {
      keys: 'e',
      does: 'Edit the first fact',
      run: () => document.querySelector<HTMLElement>('.facts .fact-button')?.click(),
    },
    ...forms.flatMap(({ key, shortcut, does, label }) =>
      shortcut ? [{ keys: shortcut, does: does ?? label, run: () => setTab(key) }] : [],
    ),
  ]);
  if (error && !data) {
    const isGone = error instanceof ApiProblem && error.problem.status === 404;
    return isGone ? <Empty title={error.message} /> : <Trouble error={error} retry={() => void refetch()} />;
  }
  if (!data) return <Skeleton rows={9} />;
  const { record, names, may } = data;
  const isClosed = parts.some(({ isReadOnly }) => isReadOnly?.(record));
  const readOnly = isClosed || !may.includes('edit');
  const sheet: SheetProps = { object, record, names, may, write: setTab };
  return (
    <article
      className={`record ${isOver ? 'files-over' : ''}`}
      aria-label={`${objectType(object).label}: ${String(record.name)}`}
      onDragOver={(event) => {
        if (!event.dataTransfer.types.includes('Files')) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        if (event.dataTransfer.files.length === 0) return;
        event.preventDefault();
        setOver(false);
        void addFiles([...event.dataTransfer.files]);
      }}
    >
      <header className="record-head">
        <h2>
          <Fact
            object={object}
            fieldKey="name"
            record={record}
            names={names}
            readOnly={readOnly}
            className="record-name"
          />
        </h2>
        {parts.map(({ Head }, index) => Head && <Head key={index} {...sheet} />)}
        {parts.map(({ Under }, index) => Under && <Under key={index} {...sheet} />)}
      </header>
      <div className="record-columns">
        <section className="record-story" aria-label="Timeline">
          {parts.map(({ Above }, index) => Above && <Above key={index} {...sheet} />)}
          {!isClosed && <Composer object={object} record={record} tab={tab} setTab={setTab} />}
          <Timeline object={object} id={id} />
        </section>
        <aside className="record-facts" aria-label="Facts">
          <Facts object={object} record={record} names={names} readOnly={readOnly} />
          {parts.map(({ Beside }, index) => Beside && <Beside key={index} {...sheet} />)}
          <RecordFiles object={object} id={id} />
        </aside>
      </div>
    </article>
  );
}
