import { useQuery } from '@tanstack/react-query';
import { ask, newForm, type AnyRecord, type FormFigures, type Written } from '@zawn/core';
import { Button } from 'antd';
import { Plus } from 'lucide-react';
import { Link, useNavigate } from 'react-router';
import { Allowed } from '../../platform/sessions/allowed';
import { call } from '../../platform/api/client';
import { allRecords, RECORDS } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { nearDate, number } from '../../platform/frame/format';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { type FormRecord } from './form-record';
import './forms.css';

const FORMS = { ...ask('form'), sort: [{ field: 'name' }] };

/** An address that no other form has: `contact`, `contact-2`. */
function freeSlug(taken: readonly string[]): string {
  for (let count = 1; ; count += 1) {
    const slug = count === 1 ? 'contact' : `contact-${count}`;
    if (!taken.includes(slug)) return slug;
  }
}

/** The web forms there are: where each is published, whose its leads are, and how much came through it. */
export function Component() {
  const { today, person } = useSession();
  const navigate = useNavigate();
  const { data, error, refetch } = useQuery(allRecords(FORMS));
  const { data: sent } = useQuery({
    queryKey: [RECORDS, 'forms', 'sent'],
    queryFn: () => call<{ forms: FormFigures[] }>('GET', '/forms/sent'),
  });
  const write = useWrite<AnyRecord>();
  const forms = (data?.rows ?? []) as unknown as FormRecord[];
  const add = async () => {
    const body = {
      name: 'New form',
      slug: freeSlug(forms.map(({ slug }) => slug)),
      design: JSON.stringify(newForm),
      to: 'rules',
      active: false,
    };
    const { value }: Written<AnyRecord> = await write.mutateAsync({ method: 'POST', path: '/forms', body });
    await navigate(`/forms/${value.id}`);
  };
  return (
    <>
      <header className="page-head">
        <h1>Forms</h1>
        <span className="page-count">what visitors of your website fill in becomes a lead</span>
        <div className="page-tools">
          <Allowed object="form" to="add">
            <Button
              type="primary"
              icon={<Plus size={15} />}
              onClick={() => void add().catch(() => undefined)}
            >
              Form
            </Button>
          </Allowed>
        </div>
      </header>
      {error ? (
        <Trouble error={error} retry={() => void refetch()} />
      ) : !data ? (
        <Skeleton rows={4} />
      ) : forms.length === 0 ? (
        <Empty title="No forms yet.">
          <p>A form has an address of its own and can stand in any page of your website.</p>
        </Empty>
      ) : (
        <ul className="forms" aria-label="Forms">
          {forms.map(({ id, name, slug, active, to, person: who }) => {
            const figures = sent?.forms.find(({ form }) => form === id);
            return (
              <li key={id} className={active ? '' : 'form-paused'}>
                <div>
                  <Link to={`/forms/${id}`} className="form-name">
                    {name}
                  </Link>
                  <span className="second">
                    {active ? <a href={`/f/${slug}`}>/f/{slug}</a> : `/f/${slug}, paused`}
                  </span>
                </div>
                <span className="second">
                  {to === 'person' ? `goes to ${person(who)?.name}` : 'goes by the assignment rules'}
                </span>
                <Link to={`/forms/${id}?sent`} className="form-sent">
                  <b>{figures?.sent ?? 0}</b> sent in
                </Link>
                <span className="second">
                  {figures
                    ? `latest ${nearDate(figures.latest.slice(0, 10), today)}${figures.held > 0 ? `, ${number(figures.held)} held back` : ''}`
                    : 'nobody yet'}
                </span>
              </li>
            );
          })}
        </ul>
      )}
    </>
  );
}
