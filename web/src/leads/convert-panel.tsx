import { useQuery } from '@tanstack/react-query';
import {
  builtIn,
  fieldOf,
  type AnyRecord,
  type ConversionChoice,
  type ConversionPart,
  type ConversionPreview,
  type Converted,
  type Field,
  type FieldValue,
  type NamedCandidate,
} from '@zawn/core';
import { Button, Checkbox, Input, Radio } from 'antd';
import { useState } from 'react';
import { call } from '../api/client';
import { pathOf, RECORDS } from '../api/queries';
import { useWrite } from '../api/use-write';
import { useOpening } from '../frame/opening';
import { Skeleton, Trouble } from '../frame/states';
import { FieldInput } from '../records/field-input';
import { useSession } from '../sessions/session';
import './convert.css';

/** Sure enough to be chosen beforehand. */
const LIKELY = 0.75;
const NEW = 0;

interface PartProps {
  title: string;
  candidates: readonly NamedCandidate[];
  chosen: number;
  choose: (id: number) => void;
  newName: string;
  rename: (name: string) => void;
}

/** One part of the conversion: link someone who is there already, shown with why, or create anew. */
function Part({ title, candidates, chosen, choose, newName, rename }: PartProps) {
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
        <Input
          value={newName}
          onChange={(event) => rename(event.target.value)}
          aria-label={`Name of the new ${title.toLowerCase()}`}
          maxLength={200}
        />
      )}
    </fieldset>
  );
}

const likeliest = (candidates: readonly NamedCandidate[]) =>
  candidates[0] && candidates[0].likeness >= LIKELY ? candidates[0].id : NEW;

const DEAL_FIELDS = ['name', 'pipeline', 'stage', 'value', 'closeOn'] as const;

/** Turns a lead into a contact, an account and, when wanted, a deal. */
export default function ConvertPanel({ lead, close }: { lead: AnyRecord; close: () => void }) {
  const path = `${pathOf('lead', lead.id)}/conversion`;
  const { data, error, refetch } = useQuery({
    queryKey: [RECORDS, 'conversion', lead.id, lead.version],
    queryFn: ({ signal }) => call<ConversionPreview>('GET', path, { signal }),
  });
  if (error) return <Trouble error={error} retry={() => void refetch()} />;
  return data ? <ConvertForm {...{ lead, path, close }} preview={data} /> : <Skeleton rows={5} />;
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
  const { pipelines, stagesOf } = useSession();
  const { open } = useOpening();
  const [contact, setContact] = useState(() => likeliest(preview.contacts));
  const [contactName, setContactName] = useState(String(proposal.contact.name ?? ''));
  const [account, setAccount] = useState(() => likeliest(preview.accounts));
  const [accountName, setAccountName] = useState(String(proposal.account?.name ?? ''));
  const [wantsAccount, setWantsAccount] = useState(proposal.account !== null || preview.accounts.length > 0);
  const [wantsDeal, setWantsDeal] = useState(true);
  const pipeline = pipelines[0].id;
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
  const choice: ConversionChoice = {
    contact: partOf(contact, proposal.contact, contactName),
    account: wantsAccount ? partOf(account, proposal.account ?? { owner: lead.owner }, accountName) : null,
    deal: wantsDeal ? deal : null,
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
      },
    );

  const created = [
    contact === NEW && 'contact',
    wantsAccount && account === NEW && 'account',
    wantsDeal && 'deal',
  ].filter(Boolean);
  const linked = [contact !== NEW && 'contact', wantsAccount && account !== NEW && 'account'].filter(Boolean);
  const deeds = [
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
        candidates={preview.contacts}
        chosen={contact}
        choose={setContact}
        newName={contactName}
        rename={setContactName}
      />
      {wantsAccount ? (
        <Part
          title="Account"
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
      </fieldset>
      <div className="done-actions">
        <Button type="primary" htmlType="submit" loading={write.isPending}>
          {`Convert: ${deeds}`}
        </Button>
        <Button type="text" onClick={close}>
          Cancel
        </Button>
      </div>
    </form>
  );
}
