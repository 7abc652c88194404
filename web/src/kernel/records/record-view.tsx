import { useQuery } from '@tanstack/react-query';
import {
  fieldsOf,
  isSubject,
  objectType,
  type AnyRecord,
  type Field,
  type Names,
  type SubjectKey,
} from '@zawn/core';
import { lazy, Suspense, useState } from 'react';
import { NextStep } from '../../features/activities/next-step';
import { ApiProblem } from '../../platform/api/client';
import { oneRecord } from '../../platform/api/queries';
import { DealHead } from '../../features/deals/deal-head';
import { RecordFiles, useAddFiles } from '../files/record-files';
import { useShortcuts } from '../../platform/frame/shortcuts';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { LeadHead } from '../../features/leads/lead-head';
import { Memberships } from '../../features/people/memberships';
import { PeopleHead } from '../../features/people/people-head';
import { RelatedRecords } from '../../features/people/related-records';
import { SeenDetails } from '../../features/people/seen-details';
import { useSession } from '../../platform/sessions/session';
import { Composer, type ComposerTab } from '../timeline/composer';
import { Timeline } from '../timeline/timeline';
import { Fact } from './fact';
import { layouts } from './layouts';
import './record-view.css';

const AccountPicture = lazy(() => import('../../features/people/account-picture'));

export interface HeadProps {
  record: AnyRecord;
  names: Names;
}

function Facts({ object, record, names, readOnly }: HeadProps & { object: SubjectKey; readOnly: boolean }) {
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

const heads = { lead: LeadHead, deal: DealHead, contact: PeopleHead, account: PeopleHead };

/** Whether a record still wants a next step. */
function wantsNextStep(object: SubjectKey, record: AnyRecord): boolean {
  if (object === 'deal') return record.outcome === 'open';
  return object === 'lead' ? record.convertedAt === null && record.status !== 'disqualified' : false;
}

/** A record whole: its head, the next step, its timeline, and its facts edited where they are read. */
export function RecordView({ object, id }: { object: SubjectKey; id: number }) {
  const { data, error, refetch } = useQuery(oneRecord(object, id));
  const [tab, setTab] = useState<ComposerTab>();
  const [isOver, setOver] = useState(false);
  const { add: addFiles } = useAddFiles(object, id);
  useShortcuts('Record', [
    {
      keys: 'e',
      does: 'Edit the first fact',
      run: () => document.querySelector<HTMLElement>('.facts .fact-button')?.click(),
    },
    { keys: 'n', does: 'Plan the next step', run: () => setTab('plan') },
    { keys: 'm', does: 'Write a note', run: () => setTab('note') },
  ]);
  if (error && !data) {
    const isGone = error instanceof ApiProblem && error.problem.status === 404;
    return isGone ? <Empty title={error.message} /> : <Trouble error={error} retry={() => void refetch()} />;
  }
  if (!data) return <Skeleton rows={9} />;
  const { record, names } = data;
  const Head = isSubject(object) ? heads[object] : PeopleHead;
  const readOnly = object === 'lead' && record.convertedAt !== null;
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
        <Head record={record} names={names} />
        {(object === 'lead' || object === 'contact') && !readOnly && <SeenDetails object={object} id={id} />}
        <NextStep
          object={object}
          record={record}
          isOpen={wantsNextStep(object, record)}
          plan={() => setTab('plan')}
        />
      </header>
      <div className="record-columns">
        <section className="record-story" aria-label="Timeline">
          {object === 'account' && (
            <Suspense>
              <AccountPicture account={record} />
            </Suspense>
          )}
          {!readOnly && <Composer object={object} record={record} tab={tab} setTab={setTab} />}
          <Timeline object={object} id={id} />
        </section>
        <aside className="record-facts" aria-label="Facts">
          <Facts object={object} record={record} names={names} readOnly={readOnly} />
          {(object === 'account' || object === 'contact') && (
            <>
              <Memberships object={object} id={id} />
              <RelatedRecords object={object} id={id} />
            </>
          )}
          <RecordFiles object={object} id={id} />
        </aside>
      </div>
    </article>
  );
}
