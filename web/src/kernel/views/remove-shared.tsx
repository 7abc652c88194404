import { useQuery } from '@tanstack/react-query';
import { type Replacement, type Showable, type ShownOn, type Usage } from '@zawn/core';
import { Modal, Select } from 'antd';
import { useState } from 'react';
import { call } from '../../platform/api/client';
import { RECORDS } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import './remove-shared.css';

interface Props {
  noun: 'view' | 'list' | 'report' | 'dashboard' | 'snapshot';
  record: { id: number; name: string; version: number };
  /** What it is where it can be shown elsewhere, and what can stand there instead. */
  shown?: { of: Showable; instead: readonly { label: string; value: Replacement }[] };
  /** What stays when it is gone. */
  stays: string;
  onRemoved: () => void;
  close: () => void;
}

/** Who would miss something, in sentences. */
function usersOf({ people, views, rules = [], shownOn = [] }: Usage): string[] {
  const named = (of: readonly ShownOn[]) => of.map(({ name }) => name).join(', ');
  const [made, shown] = [true, undefined].map((goesOn) => shownOn.filter((each) => each.goesOn === goesOn));
  return [
    people.length > 0
      ? `${people.join(', ')} ${people.length === 1 ? 'has' : 'have'} it pinned or open with it.`
      : '',
    rules.length > 0 ? `Asked for by ${rules.join(', ')}.` : '',
    views.length > 0 ? `Used in ${views.map((name) => `“${name}”`).join(', ')}.` : '',
    shown.length > 0 ? `Shown on ${named(shown)}.` : '',
    made.length > 0
      ? `Frozen by ${named(made)}, which ${made.length === 1 ? 'goes' : 'go'} on as it asks now.`
      : '',
  ].filter(Boolean);
}

/** Asks before something shared is deleted: says who uses it, and offers what can be shown instead. */
export function RemoveShared({ noun, record, shown, stays, onRemoved, close }: Props) {
  const address = `/${noun}s/${record.id}`;
  const { data: usage } = useQuery({
    queryKey: [RECORDS, 'usage', address],
    queryFn: ({ signal }) => call<Usage>('GET', `${address}/usage`, { signal }),
  });
  const [instead, setInstead] = useState<Replacement>();
  const write = useWrite();
  const users = usage ? usersOf(usage) : [];
  const mine = (usage?.shownOn ?? []).filter(({ mayChange }) => mayChange).length;
  const remove = async () => {
    try {
      if (shown && instead)
        await write.mutateAsync({
          method: 'POST',
          path: '/usage/instead',
          body: { of: shown.of, instead },
        });
      await write.mutateAsync({ method: 'DELETE', path: address, version: record.version });
      onRemoved();
    } catch {
      // What went wrong is said already.
    }
    close();
  };
  return (
    <Modal
      open
      title={`Delete the ${noun} “${record.name}”?`}
      okText={`Delete ${noun}`}
      okButtonProps={{ danger: true, loading: write.isPending, disabled: !usage }}
      onOk={() => void remove()}
      onCancel={close}
      width={460}
    >
      <p>
        {[...users, usage && users.length === 0 ? 'Nobody else uses it.' : '', stays]
          .filter(Boolean)
          .join(' ')}
      </p>
      {shown && mine > 0 && (
        <label className="remove-instead">
          <span className="second">Shown there instead, where it is yours to change</span>
          <Select
            aria-label="Shown there instead"
            allowClear
            showSearch={{ optionFilterProp: 'label' }}
            placeholder="Nothing: there it says that it is gone"
            options={shown.instead.map(({ label, value }) => ({ label, value: JSON.stringify(value) }))}
            onChange={(value?: string) =>
              setInstead(value === undefined ? undefined : (JSON.parse(value) as Replacement))
            }
          />
        </label>
      )}
    </Modal>
  );
}
