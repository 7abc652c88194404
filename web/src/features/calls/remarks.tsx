import { useQuery } from '@tanstack/react-query';
import { ask, type AnyRecord } from '@zawn/core';
import { Button, Input } from 'antd';
import { X } from 'lucide-react';
import { useState } from 'react';
import { allRecords, pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { timeIn } from '../../platform/frame/format';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';

interface Props {
  activity: AnyRecord;
  /** Where the recording is played, in seconds. */
  at: number;
  jump: (to: number) => void;
}

/** What was remarked at which second of a recording: each is gone to, and one more is written where it is played. */
export function Remarks({ activity, at, jump }: Props) {
  const { person, me } = useSession();
  const { data, error, refetch } = useQuery(
    allRecords({
      ...ask('recordingRemark', { field: 'activity', is: 'anyOf', value: [activity.id] }),
      sort: [{ field: 'second' }],
    }),
  );
  const [text, setText] = useState('');
  const write = useWrite();
  if (error) return <Trouble error={error} retry={() => void refetch()} />;
  if (!data) return <Skeleton rows={2} />;
  const known = data.rows.map(({ id, second, text: said }) => ({ id, second, text: said }));
  const put = (remarks: readonly object[], onSuccess = () => undefined as void) =>
    write.mutate(
      {
        method: 'PATCH',
        path: pathOf('activity', activity.id),
        version: activity.version,
        body: { remarks },
      },
      { onSuccess },
    );
  const second = Math.floor(at);
  const add = () => {
    if (text.trim()) put([...known, { second, text: text.trim() }], () => setText(''));
  };
  return (
    <div className="remarks">
      <ul>
        {data.rows.map((remark) => (
          <li key={remark.id}>
            <button type="button" className="link-button" onClick={() => jump(Number(remark.second))}>
              {timeIn(Number(remark.second))}
            </button>
            <span>
              {remark.text} <span className="second">{person(Number(remark.createdBy))?.name}</span>
            </span>
            {remark.createdBy === me.id && (
              <button
                type="button"
                className="icon-button"
                aria-label={`Take the remark back: ${String(remark.text)}`}
                onClick={() => put(known.filter(({ id }) => id !== remark.id))}
              >
                <X size={13} aria-hidden />
              </button>
            )}
          </li>
        ))}
      </ul>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          add();
        }}
      >
        <Input
          autoFocus
          size="small"
          value={text}
          maxLength={500}
          placeholder="What is worth hearing here"
          aria-label={`Remark at ${timeIn(second)}`}
          prefix={<span className="second">{timeIn(second)}</span>}
          onChange={({ target }) => setText(target.value)}
        />
        <Button
          size="small"
          htmlType="submit"
          loading={write.isPending}
          disabled={text.trim() === '' || undefined}
        >
          Remark
        </Button>
      </form>
    </div>
  );
}
