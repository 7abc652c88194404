import { useMutation, useQuery } from '@tanstack/react-query';
import {
  ask,
  objectType,
  openWorkOf,
  type HandOverPreview,
  type Job,
  type ObjectKey,
  type RecordOf,
} from '@zawn/core';
import { Modal, Select } from 'antd';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../../platform/api/client';
import { refusedWords, useFollowJob } from '../../platform/api/follow-job';
import { RECORDS } from '../../platform/api/queries';
import { useNotices } from '../../platform/api/use-write';
import { number } from '../../platform/frame/format';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { listAddress } from '../../kernel/questions/list-address';
import { useSession } from '../../platform/sessions/session';

interface Props {
  person: RecordOf<'person'>;
  close: () => void;
  left: () => void;
}

type Receivers = Partial<Record<ObjectKey, number[]>>;

/** What each kind is called here: only what is still open goes to others. */
const kindLabel = (object: ObjectKey) =>
  ({ lead: 'Open leads', deal: 'Open deals', activity: 'Planned activities' })[object as string] ??
  objectType(object).plural;

/** Somebody leaves: who takes over what, seen before it is done. */
export default function LeavingDialog({ person, close, left }: Props) {
  const { people, person: known } = useSession();
  const { announce, complain } = useNotices();
  const follow = useFollowJob();
  const [receivers, setReceivers] = useState<Receivers>({});
  const handOver = Object.entries(receivers)
    .filter(([, to]) => to.length > 0)
    .map(([object, to]) => ({ object, to }));
  const path = `/people/${person.id}/leaving`;
  const { data, error, refetch } = useQuery({
    queryKey: [RECORDS, 'leaving', person.id, handOver],
    queryFn: () => call<HandOverPreview>('POST', `${path}/preview`, { body: { handOver } }),
    placeholderData: (before) => before,
  });
  const leave = useMutation({
    mutationFn: () => call<Job>('POST', path, { body: { handOver } }),
    onSuccess: (job) => {
      close();
      left();
      void follow(job)
        .then((ended) => announce({ label: `${ended.label}.${refusedWords(ended)}`, unit: ended.unit ?? 0 }))
        .catch(complain);
    },
    onError: complain,
  });
  const colleagues = people
    .filter(({ id, active }) => active && id !== person.id)
    .map(({ id, name }) => ({ value: id, label: name }));
  const give = (object: ObjectKey, to: number[]) => setReceivers((before) => ({ ...before, [object]: to }));
  const giveAll = (to: number[]) =>
    setReceivers(Object.fromEntries((data?.kinds ?? []).map(({ object }) => [object, to])));
  const questions = openWorkOf(person.id);
  const stays = data?.kinds.reduce((sum, kind) => sum + kind.left, 0) ?? 0;
  return (
    <Modal
      open
      title={`${person.name} leaves`}
      width={680}
      okText={stays > 0 ? `End access; ${number(stays)} stay in their name` : 'Hand over and end access'}
      okButtonProps={{ loading: leave.isPending, disabled: !data, danger: stays > 0 }}
      onOk={() => leave.mutate()}
      onCancel={close}
      destroyOnHidden
    >
      <p>
        {person.name} is signed out at once, tokens end too, and what they did keeps their name. Say who goes
        on with what is open; several take turns.
      </p>
      {error ? (
        <Trouble error={error} retry={() => void refetch()} />
      ) : !data ? (
        <Skeleton rows={5} />
      ) : (
        <table className="leaving-table">
          <thead>
            <tr>
              <th scope="col">What</th>
              <th scope="col" className="figure">
                Open
              </th>
              <th scope="col">Goes to</th>
              <th scope="col">Each gets</th>
            </tr>
          </thead>
          <tbody>
            <tr>
              <td>Everything</td>
              <td className="figure">{number(data.kinds.reduce((sum, { count }) => sum + count, 0))}</td>
              <td>
                <Select
                  mode="multiple"
                  value={[]}
                  placeholder="The same people for all"
                  options={colleagues}
                  optionFilterProp="label"
                  onChange={giveAll}
                  aria-label="Who gets everything"
                />
              </td>
              <td />
            </tr>
            {data.kinds.map(({ object, count, given }) => (
              <tr key={object}>
                <td>{kindLabel(object)}</td>
                <td className="figure">
                  <Link
                    to={listAddress(
                      objectType(object).path,
                      questions.find((question) => question.object === object) ?? ask(object),
                    )}
                    target="_blank"
                  >
                    {number(count)}
                  </Link>
                </td>
                <td>
                  <Select
                    mode="multiple"
                    value={receivers[object] ?? []}
                    placeholder={count === 0 ? 'Nothing to hand over' : 'Stays in their name'}
                    disabled={count === 0}
                    options={colleagues}
                    optionFilterProp="label"
                    onChange={(to: number[]) => give(object, to)}
                    aria-label={`Who gets the ${kindLabel(object).toLowerCase()}`}
                  />
                </td>
                <td className="second">
                  {given.map((each) => `${known(each.person)?.name ?? ''} ${number(each.count)}`).join(', ')}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Modal>
  );
}
