import { useQuery } from '@tanstack/react-query';
import { ask, type AnyRecord, type RecordOf, type SubjectKey } from '@zawn/core';
import { Button, DatePicker, Modal, Segmented, Select } from 'antd';
import dayjs from 'dayjs';
import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { allRecords } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { date } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';

type Share = RecordOf<'share'>;
type May = Share['may'];

const ways: { value: May; label: string }[] = [
  { value: 'see', label: 'may see it' },
  { value: 'edit', label: 'may change it' },
];

/** With whom one record is shared beside those whose roles reach it, and until when. */
export default function ShareDialog({
  object,
  record,
  close,
}: {
  object: SubjectKey;
  record: AnyRecord;
  close: () => void;
}) {
  const { people, teams, person, today } = useSession();
  const write = useWrite();
  const [to, setTo] = useState<string>();
  const [may, setMay] = useState<May>('see');
  const [until, setUntil] = useState<string | null>(null);
  const { data } = useQuery(
    allRecords({
      ...ask('share', { field: object, is: 'anyOf', value: [record.id] }),
      sort: [{ field: 'id' }],
    }),
  );
  const shares = (data?.rows ?? []) as unknown as Share[];
  const isShared = (kind: 'person' | 'team', id: number) => shares.some((share) => share[kind] === id);
  const options = [
    {
      label: 'People',
      options: people
        .filter(({ id, active }) => active && id !== record.owner && !isShared('person', id))
        .map(({ id, name }) => ({ value: `person ${id}`, label: name })),
    },
    {
      label: 'Teams',
      options: teams
        .filter(({ id }) => !isShared('team', id))
        .map(({ id, name }) => ({ value: `team ${id}`, label: name })),
    },
  ];
  const share = () => {
    const [kind, id] = (to ?? '').split(' ');
    write.mutate(
      { method: 'POST', path: '/shares', body: { [object]: record.id, [kind]: Number(id), may, until } },
      { onSuccess: () => setTo(undefined) },
    );
  };
  return (
    <Modal open title={`Share “${String(record.name)}”`} footer={null} onCancel={close} destroyOnHidden>
      <p className="second">
        Beside those who see it by their role. Whoever sees it sees its notes, activities and files too.
      </p>
      {shares.length > 0 && (
        <ul className="shares" aria-label="Shared with">
          {shares.map((each) => (
            <li key={each.id} className={each.until !== null && each.until < today ? 'share-over' : ''}>
              <b className="clip">
                {each.person === null
                  ? (teams.find(({ id }) => id === each.team)?.name ?? 'A team')
                  : (person(each.person)?.name ?? 'Somebody')}
              </b>
              <span className="second">
                {ways.find(({ value }) => value === each.may)?.label}
                {each.until !== null &&
                  (each.until < today ? `, until ${date(each.until)}: over` : `, until ${date(each.until)}`)}
              </span>
              <Button
                type="text"
                size="small"
                icon={<Trash2 size={14} />}
                aria-label="Share it no longer"
                onClick={() =>
                  write.mutate({ method: 'DELETE', path: `/shares/${each.id}`, version: each.version })
                }
              />
            </li>
          ))}
        </ul>
      )}
      <form
        className="share-form"
        onSubmit={(event) => {
          event.preventDefault();
          share();
        }}
      >
        <Select
          value={to}
          onChange={setTo}
          options={options}
          showSearch={{ optionFilterProp: 'label' }}
          placeholder="A person or a team"
          aria-label="Share with"
          autoFocus
        />
        <Segmented value={may} options={ways} onChange={setMay} aria-label="They" />
        <DatePicker
          value={until ? dayjs(until) : null}
          minDate={dayjs(today)}
          onChange={(day) => setUntil(day ? day.format('YYYY-MM-DD') : null)}
          placeholder="For good"
          aria-label="Until"
        />
        <Button type="primary" htmlType="submit" disabled={!to} loading={write.isPending}>
          Share
        </Button>
      </form>
    </Modal>
  );
}
