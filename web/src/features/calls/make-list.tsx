import { objectType, type AnyRecord, type Question } from '@zawn/core';
import { Checkbox, Form, Input, InputNumber, Modal, Radio } from 'antd';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { ApiProblem } from '../../platform/api/client';
import { useWrite } from '../../platform/api/use-write';

interface Props {
  question: Question;
  name: string;
  close: () => void;
}

interface Values {
  name: string;
  passReached: number | null;
  officeHours: boolean;
  sharing: string;
}

const SHARING = [
  { value: 'private', label: 'Only me' },
  { value: 'team', label: 'My team' },
  { value: 'everyone', label: 'Everyone' },
];

/** Makes a call list of what a view shows, in its order. */
export function MakeCallList({ question, name, close }: Props) {
  const [values, setValues] = useState<Values>({
    name,
    passReached: 7,
    officeHours: true,
    sharing: 'private',
  });
  const [complaint, setComplaint] = useState<string>();
  const write = useWrite<AnyRecord>({ quiet: true });
  const navigate = useNavigate();
  const { version, object, where, sort } = question;
  const save = () =>
    write.mutate(
      {
        method: 'POST',
        path: '/call-lists',
        body: {
          ...values,
          question: { version, object, ...(where ? { where } : {}), ...(sort ? { sort } : {}) },
        },
      },
      {
        onSuccess: () => {
          close();
          void navigate('/call-lists');
        },
        onError: (error) =>
          setComplaint(error instanceof ApiProblem ? error.message : 'This could not be made. Try again.'),
      },
    );
  const { plural } = objectType(object);
  return (
    <Modal
      open
      title={`Call these ${plural.toLowerCase()} one after the other`}
      okText="Make the call list"
      onCancel={close}
      onOk={save}
      okButtonProps={{ disabled: values.name.trim() === '', loading: write.isPending }}
      width={460}
    >
      <Form layout="vertical" onFinish={save}>
        <Form.Item
          label="Name"
          htmlFor="call-list-name"
          help={complaint}
          validateStatus={complaint ? 'error' : ''}
        >
          <Input
            id="call-list-name"
            autoFocus
            maxLength={80}
            value={values.name}
            onChange={({ target }) => setValues({ ...values, name: target.value })}
            onPressEnter={save}
          />
        </Form.Item>
        <Form.Item label="Pass over whom we reached within" htmlFor="call-list-days">
          <InputNumber<number>
            id="call-list-days"
            value={values.passReached}
            min={1}
            max={365}
            suffix="days"
            placeholder="nobody"
            onChange={(passReached) => setValues({ ...values, passReached })}
          />
        </Form.Item>
        <Form.Item>
          <Checkbox
            checked={values.officeHours}
            onChange={({ target }) => setValues({ ...values, officeHours: target.checked })}
          >
            Only while offices are open where they are
          </Checkbox>
        </Form.Item>
        <Form.Item label="Called by">
          <Radio.Group
            value={values.sharing}
            options={SHARING}
            onChange={({ target }) => setValues({ ...values, sharing: String(target.value) })}
          />
        </Form.Item>
      </Form>
    </Modal>
  );
}
