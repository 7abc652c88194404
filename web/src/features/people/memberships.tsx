import { useQuery } from '@tanstack/react-query';
import { ask, fieldOf, type AnyRecord, type Field, type FieldValue } from '@zawn/core';
import { Button, Input } from 'antd';
import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import { allRecords, pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { InlineForm } from '../../platform/frame/inline-form';
import { useOpening } from '../../platform/frame/opening';
import { FieldInput } from '../../kernel/records/field-input';
import { useSession } from '../../platform/sessions/session';

const sides = {
  contact: { other: 'account', title: 'Belongs to as well', add: 'Another account' },
  account: { other: 'contact', title: 'Others who belong here', add: 'Somebody of another account' },
} as const;

/** The accounts a contact belongs to beside the main one, or the people of an account whose main one is another. */
export function Memberships({ object, id }: { object: 'contact' | 'account'; id: number }) {
  const { other, title, add } = sides[object];
  const { catalogue } = useSession();
  const { open } = useOpening();
  const [isAdding, setAdding] = useState(false);
  const [chosen, setChosen] = useState<FieldValue>(null);
  const [role, setRole] = useState('');
  const write = useWrite();
  const { data } = useQuery(allRecords(ask('membership', { field: object, is: 'anyOf', value: [id] })));
  const close = () => {
    setAdding(false);
    setChosen(null);
    setRole('');
  };
  const save = () => {
    if (chosen === null) return;
    const body = { [object]: id, [other]: chosen, role: role.trim() || null };
    write.mutate({ method: 'POST', path: '/memberships', body }, { onSuccess: close });
  };
  const nameOf = (membership: AnyRecord) => data?.names[other]?.[Number(membership[other])];
  return (
    <section className="related memberships">
      {((data && data.rows.length > 0) || isAdding) && <h3>{title}</h3>}
      <ul className="member-list">
        {data?.rows.map((membership) => {
          const name = nameOf(membership) ?? `Not within your reach`;
          return (
            <li key={membership.id}>
              {nameOf(membership) ? (
                <button
                  type="button"
                  className="link-button"
                  onClick={() => open(other, Number(membership[other]))}
                >
                  {name}
                </button>
              ) : (
                <span className="second">{name}</span>
              )}{' '}
              <span className="second">{membership.role}</span>
              <Button
                type="text"
                size="small"
                icon={<X size={13} />}
                aria-label={`No longer belongs together: ${name}`}
                onClick={() =>
                  write.mutate({
                    method: 'DELETE',
                    path: pathOf('membership', membership.id),
                    version: membership.version,
                  })
                }
              />
            </li>
          );
        })}
      </ul>
      {isAdding ? (
        <InlineForm
          save={save}
          close={close}
          label="Add"
          isBusy={write.isPending}
          isReady={chosen !== null}
          name={add}
        >
          <FieldInput
            id="membership-other"
            field={fieldOf(catalogue, 'membership', other) as Field}
            value={chosen}
            onChange={setChosen}
            autoFocus
          />
          <Input
            value={role}
            onChange={({ target }) => setRole(target.value)}
            placeholder="Role there"
            aria-label="Role there"
            maxLength={200}
          />
        </InlineForm>
      ) : (
        <Button type="link" size="small" icon={<Plus size={14} />} onClick={() => setAdding(true)}>
          {add}
        </Button>
      )}
    </section>
  );
}
