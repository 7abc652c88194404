import { useInfiniteQuery, useQuery, useQueryClient } from '@tanstack/react-query';
import { ask, fieldOf, offered, type MailArrivalsPage, type MailOutcome, type RecordOf } from '@zawn/core';
import { Button, Input, Select, Switch } from 'antd';
import { Mail, Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { call } from '../../platform/api/client';
import { allRecords, RECORDS } from '../../platform/api/queries';
import { useNotices, useWrite } from '../../platform/api/use-write';
import { GoesTo } from '../forms/goes-to';
import { LoadEarlier } from '../../platform/frame/load-earlier';
import { FileDrop } from '../../platform/frame/file-drop';
import { clock, counted, nearDate } from '../../platform/frame/format';
import { useOpening } from '../../platform/frame/opening';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import './mail-capture.css';

type Address = RecordOf<'captureAddress'>;

const ADDRESSES = { ...ask('captureAddress'), sort: [{ field: 'name' }] };

/** The addresses whose mail becomes leads, and everything that came to them with what became of it. */
export function Component() {
  const { data, error, refetch } = useQuery(allRecords(ADDRESSES));
  const write = useWrite();
  const addresses = (data?.rows ?? []) as unknown as Address[];
  return (
    <>
      <header className="page-head">
        <h1>Email</h1>
        <span className="page-count">
          an email to one of these addresses becomes a lead, or is added to a timeline
        </span>
      </header>
      <div className="mail-capture">
        {error ? (
          <Trouble error={error} retry={() => void refetch()} />
        ) : !data ? (
          <Skeleton rows={4} />
        ) : (
          <section aria-label="Capture addresses">
            <ul className="addresses">
              {addresses.map((address) => (
                <AddressLine key={`${address.id} ${address.version}`} address={address} />
              ))}
            </ul>
            <NewAddress
              add={(values) =>
                write.mutate({
                  method: 'POST',
                  path: '/capture-addresses',
                  body: { ...values, to: 'rules', active: true },
                })
              }
            />
          </section>
        )}
        <Arrivals />
      </div>
    </>
  );
}

/** One address: what it is called, who gets its leads, what their source is. */
function AddressLine({ address }: { address: Address }) {
  const { catalogue } = useSession();
  const write = useWrite();
  const { id, version, name, active, to, person, source } = address;
  const path = `/capture-addresses/${id}`;
  const change = (body: Partial<Address>) => write.mutate({ method: 'PATCH', path, version, body });
  const typed = (field: 'name' | 'address', label: string) => (
    <Input
      variant="borderless"
      className={`address-${field}`}
      defaultValue={address[field]}
      aria-label={label}
      onBlur={({ target: { value } }) =>
        value.trim() && value !== address[field] && change({ [field]: value })
      }
    />
  );
  return (
    <li className={active ? '' : 'address-off'}>
      {typed('name', `Name of ${address.address}`)}
      {typed('address', `Address of ${name}`)}
      <GoesTo to={to} person={person} onChange={change} label={`Who gets the leads of ${name}`} />
      <Select
        allowClear
        value={source}
        placeholder="Source"
        options={offered(fieldOf(catalogue, 'lead', 'source')?.choices).map(({ key, label }) => ({
          value: key,
          label,
        }))}
        onChange={(next: Address['source'] | undefined) => change({ source: next ?? null })}
        aria-label={`Source of the leads of ${name}`}
      />
      <Switch
        size="small"
        checked={active}
        aria-label={`${name} is in use`}
        onChange={(next) => change({ active: next })}
      />
      <Button
        type="text"
        size="small"
        icon={<Trash2 size={14} />}
        aria-label={`Delete ${name}`}
        onClick={() => write.mutate({ method: 'DELETE', path, version })}
      />
    </li>
  );
}

function NewAddress({ add }: { add: (values: { name: string; address: string }) => void }) {
  const [address, setAddress] = useState('');
  const submit = () => {
    if (!address.includes('@')) return;
    add({ name: address.split('@')[0], address });
    setAddress('');
  };
  return (
    <form
      className="address-new"
      onSubmit={(event) => {
        event.preventDefault();
        submit();
      }}
    >
      <Input
        value={address}
        onChange={({ target }) => setAddress(target.value)}
        placeholder="another@your-domain.example"
        aria-label="New capture address"
      />
      <Button htmlType="submit" icon={<Plus size={14} />} disabled={!address.includes('@')}>
        Address
      </Button>
    </form>
  );
}

const outcomes: Record<MailOutcome, string> = {
  lead: 'became a lead',
  timeline: 'added to a timeline',
  automatic: 'automatic reply',
  bounce: 'bounced mail',
  list: 'mailing list',
  colleague: 'from a colleague',
  loop: 'would go round in a circle',
};

/** What came in, newest first, with a place to drop mails that were kept as files. */
function Arrivals() {
  const queryClient = useQueryClient();
  const { complain } = useNotices();
  const pages = useInfiniteQuery({
    queryKey: [RECORDS, 'mail-arrivals'],
    queryFn: ({ pageParam }) =>
      call<MailArrivalsPage>('GET', `/mail-arrivals${pageParam ? `?before=${pageParam}` : ''}`),
    initialPageParam: 0,
    getNextPageParam: (page) => page.next ?? undefined,
  });
  const arrivals = pages.data?.pages.flatMap((page) => page.rows);
  const drop = async (files: File[]) => {
    for (const file of files) await call('POST', '/mails/files', { file }).catch(complain);
    await queryClient.invalidateQueries({ queryKey: [RECORDS] });
  };
  return (
    <section className="arrivals" aria-label="What came in">
      <h2>What came in</h2>
      <FileDrop
        onFiles={(files) => void drop(files)}
        accept=".eml,message/rfc822"
        label="Emails kept as files"
        button="Choose emails"
        multiple
        beside={<span className="second">Drop .eml files here to import them as emails.</span>}
      >
        {null}
      </FileDrop>
      {!arrivals ? (
        <Skeleton rows={6} />
      ) : arrivals.length === 0 ? (
        <Empty title="No email yet.">
          <p>Emails to these addresses are listed here, with what became of them.</p>
        </Empty>
      ) : (
        <ol aria-label={counted(arrivals.length, 'mail')}>
          {arrivals.map((arrival) => (
            <ArrivalLine key={arrival.id} arrival={arrival} />
          ))}
          <LoadEarlier pages={pages} />
        </ol>
      )}
    </section>
  );
}

function ArrivalLine({ arrival }: { arrival: MailArrivalsPage['rows'][number] }) {
  const { timeZone, today, dayOf } = useSession();
  const { open } = useOpening();
  const { id, at, sender, subject, address, outcome, why, on } = arrival;
  return (
    <li>
      <span className="second figure">
        {nearDate(dayOf(at), today)}, {clock(at, timeZone)}
      </span>
      <span className="arrival-what">
        <b className="clip">{subject}</b>
        <span className="second clip">
          {sender || 'nobody'} to {address ?? 'a file'}
        </span>
      </span>
      <span className="arrival-outcome">
        {on ? (
          <button type="button" className="link-button" onClick={() => open(on.object, on.id)}>
            {outcomes[outcome]}
          </button>
        ) : (
          <span className="second">{outcomes[outcome]}</span>
        )}
        {why && <span className="second">{why}</span>}
      </span>
      <a href={`/api/v1/mail-arrivals/${id}/file`} aria-label={`“${subject}” as it came`} title="As it came">
        <Mail size={14} aria-hidden />
      </a>
    </li>
  );
}
