import {
  fieldsOf,
  isSubject,
  objectType,
  type AnyRecord,
  type Policy,
  type FieldValue,
  type Written,
} from '@zawn/core';
import { Button, Form, Input, Modal, type InputRef } from 'antd';
import { useRef, useState } from 'react';
import { ApiProblem } from '../../platform/api/client';
import { pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { type Addable } from '../shell/addable';
import { useBrought, type Addition } from '../shell/feature';
import { useOpening } from '../../platform/frame/opening';
import { useSession } from '../../platform/sessions/session';
import { usePreferences } from '../../platform/sessions/use-preferences';
import { FieldInput } from './field-input';
import { quickFields, useQuickAdd } from './quick-fields';

type Values = Record<string, FieldValue>;

interface Props {
  object: Addable;
  values: Values;
  close: () => void;
}

/** What a new record starts with, before anything is typed. */
function useDefaults(object: Addable, begins: Addition['begins']): Values {
  const session = useSession();
  const { me, policy, pipelinesOffered, stagesOf, organisation, catalogue } = session;
  const [preferences] = usePreferences();
  const pipeline = pipelinesOffered[0]?.id ?? null;
  const own: Record<Addable, Values> = {
    lead: { status: 'untouched' },
    contact: { relationship: 'prospect' },
    account: { relationship: 'prospect' },
    deal: {
      pipeline,
      stage: pipeline === null ? null : (stagesOf(pipeline)[0]?.id ?? null),
      currency: organisation.currency,
    },
    activity: { kind: 'task' },
  };
  const presets = fieldsOf(catalogue, object).flatMap(([key, { preset }]) =>
    preset === undefined ? [] : [[key, preset] as const],
  );
  return {
    owner: isGivenByRules(object, policy) ? null : me.id,
    ...Object.fromEntries(presets),
    ...own[object],
    ...begins?.(session, preferences),
  };
}

/** Whoever gives leads to others may leave it to the assignment rules. */
const isGivenByRules = (object: Addable, policy: Policy) => object === 'lead' && policy.may('leaveOwnerOut');

/** The short form for a new record. What the server refuses is said beside the field it is about. */
export default function QuickAdd({ object, values, close }: Props) {
  const { policy, stagesOf, catalogue } = useSession();
  const fields = Object.fromEntries(fieldsOf(catalogue, object));
  const byRules = isGivenByRules(object, policy);
  const [form] = Form.useForm<Values>();
  const {
    More,
    asks = [],
    label: called,
    begins,
  }: Partial<Addition> & { label: string } = useBrought('additions').find(
    (each) => each.object === object,
  ) ?? { label: objectType(object).label };
  const defaults = useDefaults(object, begins);
  const [more, setMore] = useState<Values>();
  const [problem, setProblem] = useState<string>();
  const first = useRef<InputRef>(null);
  const { open } = useOpening();
  const write = useWrite<AnyRecord>({ quiet: true });
  const setUp = useQuickAdd(object);
  const begun = Object.keys(defaults).filter((key) => defaults[key] !== null || key === 'owner');
  // What is asked for in another way needs no field.
  begun.push(...asks);
  const keys = quickFields(catalogue, object, setUp?.chosen ?? [], begun);
  const pipeline = Form.useWatch('pipeline', { form, preserve: true });
  const currency = Form.useWatch('currency', { form, preserve: true });

  const save = (typed: Values) => {
    setProblem(undefined);
    const { owner, ...rest }: Values = {
      ...defaults,
      ...values,
      ...typed,
      ...more,
    };
    const body = (owner ?? null) === null ? rest : { owner, ...rest };
    write.mutate(
      { method: 'POST', path: pathOf(object), body },
      {
        onSuccess: ({ value }: Written<AnyRecord>) => {
          close();
          if (isSubject(object)) open(object, value.id);
        },
        onError: (error) => {
          const faults = error instanceof ApiProblem ? (error.problem.faults ?? []) : [];
          const known = faults.filter(({ field }) => keys.includes(field));
          form.setFields(known.map(({ field, message }) => ({ name: field, errors: [message] })));
          if (known.length === 0) setProblem(error.message);
        },
      },
    );
  };

  if (!setUp) return null;
  return (
    <Modal
      open
      title={`New ${called.toLowerCase()}`}
      onCancel={close}
      width={480}
      destroyOnHidden
      afterOpenChange={(isOpen) => isOpen && first.current?.focus()}
      footer={[
        <Button key="cancel" onClick={close}>
          Cancel
        </Button>,
        <Button
          key="save"
          type="primary"
          loading={write.isPending}
          onClick={() => form.submit()}
          disabled={More !== undefined && !more}
        >
          Create {called.toLowerCase()}
        </Button>,
      ]}
    >
      <Form<Values>
        form={form}
        layout="horizontal"
        labelCol={{ flex: '116px' }}
        labelAlign="left"
        colon={false}
        requiredMark={false}
        initialValues={{ ...defaults, ...values }}
        onFinish={save}
        onValuesChange={(changed: Partial<Values>) => {
          // Another pipeline has other stages.
          if (changed.pipeline) form.setFieldValue('stage', stagesOf(Number(changed.pipeline))[0]?.id);
        }}
      >
        {problem && (
          <p className="fact-complaint" role="alert">
            {problem}
          </p>
        )}
        {keys.map((key, index) => (
          <Form.Item
            key={key}
            name={key}
            label={fields[key].label}
            extra={key === 'owner' && byRules ? 'Left empty, the assignment rules decide.' : undefined}
            rules={
              fields[key].required && !(key === 'owner' && byRules)
                ? [{ required: true, message: `${fields[key].label} is missing` }]
                : []
            }
          >
            {key === 'name' ? (
              <Input
                ref={index === 0 ? first : undefined}
                maxLength={200}
                onPressEnter={() => form.submit()}
              />
            ) : (
              <FieldInput
                field={fields[key]}
                pipeline={Number(pipeline ?? defaults.pipeline)}
                currency={
                  fields[key].type === 'money'
                    ? String(currency ?? defaults.currency ?? '') || undefined
                    : undefined
                }
              />
            )}
          </Form.Item>
        ))}
        {More && <More onChange={setMore} />}
        <button type="submit" hidden aria-hidden tabIndex={-1} />
      </Form>
    </Modal>
  );
}
