import { type AnyRecord } from '@zawn/core';
import { Input } from 'antd';
import { useState } from 'react';
import { pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { InlineForm } from '../../platform/frame/inline-form';

interface Props {
  activity: AnyRecord;
  close: () => void;
}

/** Lets go of something planned; why is noted on its records. */
export function DropForm({ activity, close }: Props) {
  const [reason, setReason] = useState('');
  const write = useWrite();
  const save = () => {
    if (!reason.trim()) return;
    write.mutate(
      {
        method: 'POST',
        path: `${pathOf('activity', activity.id)}/drop`,
        version: activity.version,
        body: { reason: reason.trim() },
      },
      { onSuccess: close },
    );
  };
  return (
    <InlineForm
      className="done-form"
      name={`Drop: ${String(activity.name)}`}
      save={save}
      close={close}
      label="Drop it"
      isBusy={write.isPending}
      isReady={reason.trim() !== ''}
    >
      <Input
        autoFocus
        value={reason}
        onChange={({ target }) => setReason(target.value)}
        placeholder="Why it is not done"
        aria-label="Why"
        maxLength={500}
      />
    </InlineForm>
  );
}
