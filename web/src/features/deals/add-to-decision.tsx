import { useQuery } from '@tanstack/react-query';
import { ask, DECIDES, fieldOf, offered, type AnyRecord, type Condition } from '@zawn/core';
import { Input, Select } from 'antd';
import { useState } from 'react';
import { fewRecords, pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { InlineForm } from '../../platform/frame/inline-form';
import { useSession } from '../../platform/sessions/session';

/** Whoever is typed and not on file, as a choice beside those who are. */
const NEW = 0;
const FOUND = 20;

interface Props {
  deal: AnyRecord;
  /** Whether nobody is named yet who decides: that is asked for first. */
  isNobody: boolean;
  /** Contacts that have a part in it already. */
  taken: readonly number[];
  close: () => void;
}

/** Names somebody who has a part in a deal: a contact on file, those of the account first, or somebody new. */
export function AddToDecision({ deal, isNobody, taken, close }: Props) {
  const { catalogue } = useSession();
  const [typed, setTyped] = useState('');
  const [chosen, setChosen] = useState<number>();
  const [newName, setNewName] = useState('');
  const [email, setEmail] = useState('');
  const [role, setRole] = useState<string | undefined>(isNobody ? DECIDES : undefined);
  const write = useWrite();
  const ofAccount: Condition | undefined =
    deal.account === null ? undefined : { field: 'account', is: 'anyOf', value: [Number(deal.account)] };
  const named: Condition | undefined = typed ? { field: 'name', is: 'contains', value: typed } : undefined;
  const question = { ...ask('contact', named ?? ofAccount), sort: [{ field: 'name' }], columns: ['account'] };
  const { data } = useQuery(fewRecords(question, FOUND + taken.length));
  const free = (data?.rows ?? []).filter(({ id }) => !taken.includes(id)).slice(0, FOUND);
  const options = [
    ...free.map((contact) => ({
      value: contact.id,
      label: `${String(contact.name)}${contact.account === deal.account ? '' : `, ${data?.names.account?.[Number(contact.account)] ?? 'no account'}`}`,
    })),
    ...(typed.trim() ? [{ value: NEW, label: `Add “${typed.trim()}”, who is not on file` }] : []),
  ];
  const isNew = chosen === NEW;
  const save = () => {
    if (chosen === undefined || role === undefined || write.isPending) return;
    const stance = 'unknown';
    write.mutate(
      isNew
        ? {
            method: 'POST',
            path: `${pathOf('deal', deal.id)}/new-contact`,
            body: { name: newName, email: email.trim() || null, role, stance },
          }
        : {
            method: 'POST',
            path: pathOf('dealContact'),
            body: { deal: deal.id, contact: chosen, role, stance },
          },
      // A refusal has been shown by then; what was typed stays.
      { onSuccess: close },
    );
  };
  const roles = offered(fieldOf(catalogue, 'dealContact', 'role')?.choices);
  const label = isNew ? 'Add them as a contact and name them here' : 'Name them';
  return (
    <InlineForm
      className="add-to-decision"
      name="Somebody with a part in it"
      save={save}
      close={close}
      label={chosen === undefined ? 'Say who' : role === undefined ? 'Say which part they have' : label}
      isBusy={write.isPending}
      isReady={chosen !== undefined && role !== undefined}
    >
      <Select
        autoFocus
        showSearch={{ filterOption: false, onSearch: (text) => text && setTyped(text) }}
        value={chosen === NEW ? NEW : chosen}
        options={
          isNew ? [{ value: NEW, label: newName }, ...options.filter(({ value }) => value !== NEW)] : options
        }
        placeholder={ofAccount ? 'Somebody of the account, or type a name' : 'Type a name'}
        notFoundContent="Nobody of that name"
        aria-label="Who"
        onChange={(value: number) => {
          setChosen(value);
          if (value === NEW) setNewName(typed.trim());
        }}
      />
      <Select
        value={role}
        placeholder="Part in it"
        options={roles.map(({ key, label: text }) => ({ value: key, label: text }))}
        aria-label="Part in it"
        onChange={setRole}
      />
      {isNew && (
        <Input
          value={email}
          maxLength={254}
          placeholder="Email, if known"
          aria-label={`Email of ${newName}`}
          onChange={({ target }) => setEmail(target.value)}
        />
      )}
    </InlineForm>
  );
}
