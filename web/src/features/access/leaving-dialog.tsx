import { useMutation, useQuery } from '@tanstack/react-query';
import {
  ask,
  isWholeCondition,
  objectType,
  openWorkOf,
  type HandOver,
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
import { LeavingKind, nothingYet, type KindHandOver, type Part } from './leaving-kind';

interface Props {
  person: RecordOf<'person'>;
  close: () => void;
  left: () => void;
}

type HandOvers = Partial<Record<ObjectKey, KindHandOver>>;

/** What each kind is called here: only what is still open goes to others. */
const kindLabel = (object: ObjectKey) =>
  ({ lead: 'Open leads', deal: 'Open deals', activity: 'Planned activities' })[object as string] ??
  objectType(object).plural;

/** Somebody leaves: who takes over what, seen before it is done. */
export default function LeavingDialog({ person, close, left }: Props) {
  const { people, person: known, catalogue } = useSession();
  const { announce, complain } = useNotices();
  const follow = useFollowJob();
  const [handOvers, setHandOvers] = useState<HandOvers>({});
  const ofKind = (object: ObjectKey) => handOvers[object] ?? nothingYet;
  const isSaid = (object: ObjectKey, { where, to }: Part) =>
    to.length > 0 && where !== undefined && isWholeCondition(catalogue, object, where);
  // A part that is not said whole yet is left out of what is shown, and nothing is handed over before it is.
  const lines = openWorkOf(person.id).flatMap(({ object }) => [
    ...ofKind(object)
      .parts.filter((part) => isSaid(object, part))
      .map((part) => ({ object, part: part.key, to: part.to, where: part.where })),
    ...(ofKind(object).rest.length > 0 ? [{ object, to: ofKind(object).rest }] : []),
  ]);
  const handOver: HandOver[] = lines.map(({ part: _, ...line }: HandOver & { part?: number }) => line);
  const isWhole = openWorkOf(person.id).every(({ object }) =>
    ofKind(object).parts.every((part) => isSaid(object, part)),
  );
  const path = `/people/${person.id}/leaving`;
  const { data, error, refetch, isPlaceholderData } = useQuery({
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
  const give = (object: ObjectKey, some: KindHandOver) =>
    setHandOvers((before) => ({ ...before, [object]: some }));
  const giveAll = (rest: number[]) =>
    setHandOvers((before) =>
      Object.fromEntries(
        (data?.kinds ?? []).map(({ object }) => [object, { ...(before[object] ?? nothingYet), rest }]),
      ),
    );
  const questions = openWorkOf(person.id);
  const stays = data?.kinds.reduce((sum, kind) => sum + kind.left, 0) ?? 0;
  return (
    <Modal
      open
      title={`${person.name} leaves`}
      width={760}
      okText={
        !isWhole
          ? 'Say which and who first'
          : stays > 0
            ? `End access; ${number(stays)} stay in their name`
            : 'Hand over and end access'
      }
      okButtonProps={{
        loading: leave.isPending,
        disabled: !data || !isWhole || isPlaceholderData,
        danger: stays > 0,
      }}
      onOk={() => leave.mutate()}
      onCancel={close}
      destroyOnHidden
    >
      <p>
        {person.name} is signed out at once, tokens end too, and what they did keeps their name. Say who goes
        on with what is open; several take turns, and some can be given apart by a condition.
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
                  showSearch={{ optionFilterProp: 'label' }}
                  onChange={giveAll}
                  aria-label="Who gets everything"
                />
              </td>
              <td />
            </tr>
            {data.kinds.map(({ object, count, given }) => (
              <LeavingKind
                key={object}
                object={object}
                label={kindLabel(object)}
                isEmpty={count === 0}
                count={
                  <Link
                    to={listAddress(
                      objectType(object).path,
                      questions.find((question) => question.object === object) ?? ask(object),
                    )}
                    target="_blank"
                  >
                    {number(count)}
                  </Link>
                }
                given={given
                  .map((each) => `${known(each.person)?.name ?? ''} ${number(each.count)}`)
                  .join(', ')}
                taken={({ key }) =>
                  data.lines[
                    lines.findIndex((line) => line.object === object && 'part' in line && line.part === key)
                  ]
                }
                handOver={ofKind(object)}
                options={colleagues}
                change={(some) => give(object, some)}
              />
            ))}
          </tbody>
        </table>
      )}
    </Modal>
  );
}
