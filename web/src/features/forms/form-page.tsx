import { useQuery } from '@tanstack/react-query';
import { type FormFigures } from '@zawn/core';
import { Button, Segmented, Switch } from 'antd';
import { ExternalLink } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { Allowed } from '../../platform/sessions/allowed';
import { ApiProblem, call } from '../../platform/api/client';
import { oneRecord, RECORDS } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { FormEditor } from './form-editor';
import { FormPreview } from './form-preview';
import { draftOf, valuesOf, type FormDraft, type FormRecord } from './form-record';
import './forms.css';
import { Submissions } from './submissions';

/** One form: what it asks and says, with a live look at it, and what was sent through it. */
export function Component() {
  const id = Number(useParams().id);
  const { data, error, refetch } = useQuery(oneRecord('form', id));
  if (error) return <Trouble error={error} retry={() => void refetch()} />;
  if (!data) return <Skeleton rows={8} />;
  const form = data.record as unknown as FormRecord;
  return <FormPage key={id} form={form} />;
}

function FormPage({ form }: { form: FormRecord }) {
  const { id, version, active } = form;
  const [parameters, setParameters] = useSearchParams();
  const navigate = useNavigate();
  const isSent = parameters.has('sent');
  const [draft, setDraft] = useState<FormDraft>(() => draftOf(form));
  const write = useWrite({ quiet: true });
  const { data: figures } = useQuery({
    queryKey: [RECORDS, 'forms', 'sent'],
    queryFn: () => call<{ forms: FormFigures[] }>('GET', '/forms/sent'),
  });
  const isChanged = JSON.stringify(valuesOf(draft)) !== JSON.stringify(valuesOf(draftOf(form)));
  const path = `/forms/${id}`;
  const save = (values: object) => write.mutate({ method: 'PATCH', path, version, body: values });
  const sent = figures?.forms.find(({ form: of }) => of === id)?.sent ?? 0;
  const faults = write.error instanceof ApiProblem ? (write.error.problem.faults ?? []) : [];
  return (
    <>
      <header className="page-head form-head">
        <span className="form-crumb">
          <Link to="/forms">Forms</Link>
        </span>
        <h1>{form.name}</h1>
        <label className="form-state">
          <Switch
            size="small"
            checked={active}
            onChange={(next) => save({ active: next })}
            aria-label="The form is open"
          />
          {active ? 'open' : 'paused'}
        </label>
        {active && (
          <a href={`/f/${form.slug}`} target="_blank" rel="noreferrer" className="form-link">
            /f/{form.slug} <ExternalLink size={13} aria-label="opens in a new window" role="img" />
          </a>
        )}
        <div className="page-tools">
          <Segmented
            value={isSent ? 'sent' : 'design'}
            options={[
              { value: 'design', label: 'Design' },
              { value: 'sent', label: `Sent in, ${sent}` },
            ]}
            onChange={(value) => setParameters(value === 'sent' ? { sent: '' } : {}, { replace: true })}
            aria-label="What is shown"
          />
          {!isSent && (
            <>
              <Allowed object="form" to="delete">
                <Button
                  onClick={() =>
                    write.mutate(
                      { method: 'DELETE', path, version },
                      { onSuccess: () => void navigate('/forms') },
                    )
                  }
                >
                  Delete
                </Button>
              </Allowed>
              <Button
                type="primary"
                disabled={!isChanged}
                loading={write.isPending}
                onClick={() => save(valuesOf(draft))}
              >
                {active ? 'Save and publish' : 'Save'}
              </Button>
            </>
          )}
        </div>
      </header>
      {isSent ? (
        <Submissions form={id} />
      ) : (
        <div className="form-design">
          <section className="form-editor" aria-label="Design">
            {write.error && (
              <p className="form-trouble" role="alert">
                {faults.length > 0 ? faults.map(({ message }) => message).join('. ') : write.error.message}
              </p>
            )}
            <FormEditor draft={draft} onChange={setDraft} />
          </section>
          <FormPreview design={draft.design} />
        </div>
      )}
    </>
  );
}
