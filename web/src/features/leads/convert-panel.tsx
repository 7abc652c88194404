import { useQuery } from '@tanstack/react-query';
import {
  builtIn,
  CONVERTED,
  fieldOf,
  heldMovePart,
  type AnyRecord,
  type ConversionChoice,
  type ConversionPart,
  type ConversionPreview,
  type Converted,
  type Field,
  type FieldValue,
  type NamedCandidate,
  type ObjectKey,
} from '@zawn/core';
import { Button, Checkbox, Input, Radio } from 'antd';
import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import { call } from '../../platform/api/client';
import { pathOf, RECORDS } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { useOpening } from '../../platform/frame/opening';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { FieldInput } from '../../kernel/records/field-input';
import { isHeldUp } from '../guides/use-guide';
import { useSession } from '../../platform/sessions/session';
import './convert.css';

/** Sure enough to be chosen beforehand. */
const LIKELY = 0.75;
const NEW = 0;

interface PartProps {
  title: string;
  object: ObjectKey;
  /** What a new one would hold. */
  values: Record<string, FieldValue>;
  candidates: readonly NamedCandidate[];
  chosen: number;
  choose: (id: number) => void;
  newName: string;
  rename: (name: string) => void;
}

/** One part of the conversion: link someone who is there already, shown with why, or create anew. */
function Part({ title, object, values, candidates, chosen, choose, newName, rename }: PartProps) {
  return (
    <fieldset className="convert-part">
      <legend>{title}</legend>
      <Radio.Group value={chosen} onChange={(event) => choose(event.target.value as number)}>
        {candidates.map(({ id, name, detail, reason }) => (
          <Radio key={id} value={id}>
            Link <b>{name}</b> <span className="second">{detail}</span>
            <span className="convert-reason">{reason}</span>
          </Radio>
        ))}
        <Radio value={NEW}>Create new</Radio>
      </Radio.Group>
      {chosen === NEW && (
        <>
          <Input
            value={newName}
            onChange={(event) => rename(event.target.value)}
            aria-label={`Name of the new ${title.toLowerCase()}`}
            maxLength={200}
          />
          <Carried object={object} values={values} />
        </>
      )}
    </fieldset>
  );
}

/** Somebody else of the same organisation, who comes along. */
interface Another {
  name: string;
  email: string;
  role: string;
}
const NOBODY: Another = { name: '', email: '', role: '' };

/** People who come along: those on file to link, and new ones by name. */
function Others({
  candidates,
  linked,
  link,
  added,
  change,
}: {
  candidates: readonly NamedCandidate[];
  linked: readonly number[];
  link: (ids: number[]) => void;
  added: readonly Another[];
  change: (added: Another[]) => void;
}) {
  const set = (index: number, part: Partial<Another>) =>
    change(added.map((each, at) => (at === index ? { ...each, ...part } : each)));
  return (
    <fieldset className="convert-part">
      <legend>Others who come along</legend>
      <Checkbox.Group
        value={[...linked]}
        onChange={link}
        options={candidates.map(({ id, name, detail }) => ({ value: id, label: `${name} ${detail}` }))}
      />
      {added.map((another, index) => (
        <div key={index} className="convert-another">
          {(['name', 'role', 'email'] as const).map((key) => (
            <Input
              key={key}
              value={another[key]}
              placeholder={fieldOf(builtIn, 'contact', key)?.label}
              aria-label={`${fieldOf(builtIn, 'contact', key)?.label} of another person, ${index + 1}`}
              maxLength={200}
              autoFocus={key === 'name'}
              onChange={({ target }) => set(index, { [key]: target.value })}
            />
          ))}
          <Button
            type="text"
            icon={<X size={14} />}
            aria-label={`Leave out person ${index + 1}`}
            onClick={() => change(added.filter((_, at) => at !== index))}
          />
        </div>
      ))}
      <Button type="link" size="small" icon={<Plus size={14} />} onClick={() => change([...added, NOBODY])}>
        Another person
      </Button>
    </fieldset>
  );
}

/** Shown already, or no field of the lead. */
const UNSAID: readonly string[] = ['name', 'owner', 'relationship'];

/** What of the lead a new record takes over, by name. */
function Carried({ object, values }: { object: ObjectKey; values: Record<string, FieldValue> }) {
  const { catalogue } = useSession();
  const labels = Object.entries(values)
    .filter(([key, value]) => value !== null && !UNSAID.includes(key))
    .map(([key]) => fieldOf(catalogue, object, key)?.label.toLowerCase());
  if (labels.length === 0) return null;
  return <p className="second convert-carried">Carries over {labels.join(', ')}.</p>;
}

const likeliest = (candidates: readonly NamedCandidate[]) =>
  candidates[0] && candidates[0].likeness >= LIKELY ? candidates[0].id : NEW;

const DEAL_FIELDS = ['name', 'pipeline', 'stage', 'value', 'closeOn'] as const;

/** Turns a lead into a contact, an account and, when wanted, a deal. */
export default function ConvertPanel({ lead, close }: { lead: AnyRecord; close: () => void }) {
  const path = `${pathOf('lead', lead.id)}/conversion`;
  const { data, error, refetch } = useQuery({
    // Asked again when the lead changes, beside what is being filled in: a new name for it would begin the form anew.
    queryKey: [RECORDS, 'conversion', lead.id],
    // And never as it was when the form was open before.
    gcTime: 0,
    queryFn: ({ signal }) => call<ConversionPreview>('GET', path, { signal }),
  });
  if (error) return <Trouble error={error} retry={() => void refetch()} />;
  return data ? (
    <ConvertForm key={lead.id} {...{ lead, path, close }} preview={data} />
  ) : (
    <Skeleton rows={5} />
  );
}

function ConvertForm({
  lead,
  path,
  preview,
  close,
}: {
  lead: AnyRecord;
  path: string;
  preview: ConversionPreview;
  close: () => void;
}) {
  const { proposal } = preview;
  const { pipelinesOffered, stagesOf } = useSession();
  const { open } = useOpening();
  const [contact, setContact] = useState(() => likeliest(preview.contacts));
  const [contactName, setContactName] = useState(String(proposal.contact.name ?? ''));
  const [account, setAccount] = useState(() => likeliest(preview.accounts));
  const [accountName, setAccountName] = useState(String(proposal.account?.name ?? ''));
  const [wantsAccount, setWantsAccount] = useState(proposal.account !== null || preview.accounts.length > 0);
  const [wantsDeal, setWantsDeal] = useState(true);
  const [isWon, setWon] = useState(false);
  const [linkedOthers, setLinkedOthers] = useState<number[]>([]);
  const [added, setAdded] = useState<Another[]>([]);
  const pipeline = pipelinesOffered[0].id;
  const [deal, setDeal] = useState<Record<string, FieldValue>>(() => ({
    ...proposal.deal,
    pipeline,
    stage: stagesOf(pipeline)[0]?.id ?? null,
    owner: lead.owner,
  }));
  const write = useWrite<Converted>();
  const change = (key: string, value: FieldValue) => {
    const stage: Record<string, FieldValue> =
      key === 'pipeline' ? { stage: stagesOf(Number(value))[0]?.id ?? null } : {};
    setDeal((before) => ({ ...before, [key]: value, ...stage }));
  };

  const partOf = (chosen: number, values: Record<string, FieldValue>, name: string): ConversionPart =>
    chosen === NEW ? { create: { ...values, name } } : { link: chosen };
  const newPerson = ({ name, email, role }: Another): ConversionPart => ({
    create: { name, email: email || null, role: role || null, owner: lead.owner, relationship: 'prospect' },
  });
  const choice: ConversionChoice = {
    contact: partOf(contact, proposal.contact, contactName),
    account: wantsAccount ? partOf(account, proposal.account ?? { owner: lead.owner }, accountName) : null,
    others: [
      ...linkedOthers.filter((id) => id !== contact).map((link) => ({ link })),
      ...added.filter(({ name }) => name.trim()).map(newPerson),
    ],
    deal: wantsDeal ? deal : null,
    won: wantsDeal && isWon,
  };
  const save = () =>
    write.mutate(
      { method: 'POST', path, version: lead.version, body: choice },
      {
        onSuccess: ({ value }) => {
          close();
          if (value.deal !== null) open('deal', value.deal);
          else open('contact', value.contact);
        },
        onError: (error) => {
          if (!isHeldUp(error)) return;
          close();
          open('lead', lead.id, { replace: true, part: heldMovePart(CONVERTED) });
        },
      },
    );

  const newPeople = (contact === NEW ? 1 : 0) + added.filter(({ name }) => name.trim()).length;
  const linkedPeople = (contact === NEW ? 0 : 1) + linkedOthers.filter((id) => id !== contact).length;
  const created = [
    newPeople > 0 && (newPeople === 1 ? 'contact' : `${newPeople} contacts`),
    wantsAccount && account === NEW && 'account',
    wantsDeal && (isWon ? 'won deal' : 'deal'),
  ].filter(Boolean);
  const linked = [
    linkedPeople > 0 && (linkedPeople === 1 ? 'contact' : `${linkedPeople} contacts`),
    wantsAccount && account !== NEW && 'account',
  ].filter(Boolean);
  const actions = [
    created.length > 0 && `create ${created.join(', ')}`,
    linked.length > 0 && `link ${linked.join(', ')}`,
  ]
    .filter(Boolean)
    .join('; ');

  return (
    <form
      className="convert"
      aria-label="Convert the lead"
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return;
        event.stopPropagation();
        close();
      }}
    >
      <Part
        title="Contact"
        object="contact"
        values={proposal.contact}
        candidates={preview.contacts}
        chosen={contact}
        choose={setContact}
        newName={contactName}
        rename={setContactName}
      />
      <Others
        candidates={preview.contacts.filter(({ id }) => id !== contact)}
        linked={linkedOthers.filter((id) => id !== contact)}
        link={setLinkedOthers}
        added={added}
        change={setAdded}
      />
      {wantsAccount ? (
        <Part
          title="Account"
          object="account"
          values={proposal.account ?? {}}
          candidates={preview.accounts}
          chosen={account}
          choose={setAccount}
          newName={accountName}
          rename={setAccountName}
        />
      ) : (
        <Checkbox checked={false} onChange={() => setWantsAccount(true)}>
          With an account
        </Checkbox>
      )}
      <fieldset className="convert-part">
        <legend>
          <Checkbox checked={wantsDeal} onChange={(event) => setWantsDeal(event.target.checked)}>
            Deal
          </Checkbox>
        </legend>
        {wantsDeal && (
          <div className="convert-deal">
            {DEAL_FIELDS.map((key) => (
              <label key={key} className={key === 'name' ? 'convert-wide' : ''} htmlFor={`convert-${key}`}>
                <span className="second">{fieldOf(builtIn, 'deal', key)?.label}</span>
                <FieldInput
                  id={`convert-${key}`}
                  field={fieldOf(builtIn, 'deal', key) as Field}
                  value={deal[key]}
                  onChange={(value) => change(key, value)}
                  pipeline={Number(deal.pipeline)}
                  currency={String(deal.currency)}
                />
              </label>
            ))}
          </div>
        )}
        {wantsDeal && (
          <Checkbox checked={isWon} onChange={(event) => setWon(event.target.checked)}>
            Won already
          </Checkbox>
        )}
      </fieldset>
      <div className="done-actions">
        <Button type="primary" htmlType="submit" loading={write.isPending}>
          {`Convert: ${actions}`}
        </Button>
        <Button type="text" onClick={close}>
          Cancel
        </Button>
      </div>
    </form>
  );
}
