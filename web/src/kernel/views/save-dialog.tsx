import { type Design, type ObjectKey } from '@zawn/core';
import { Form, Input, Modal, Radio } from 'antd';
import { useState } from 'react';
import { ApiProblem } from '../../platform/api/client';
import { useWrite } from '../../platform/api/use-write';

export type Sharing = 'private' | 'team' | 'everyone';

interface Props {
  title: string;
  /** What the button does: `Save view`. */
  action: string;
  name: string;
  sharing: Sharing;
  /** The view or list that is renamed or shared anew; a new one when left out. */
  existing?: { path: string; version: number };
  /** What a new one is made of. */
  making?: { path: 'views' | 'lists'; object: ObjectKey; design?: Design };
  onSaved: (id: number) => void;
  close: () => void;
}

/** The name of a view or list, and who sees it. */
export function SaveDialog({ title, action, name, sharing, existing, making, onSaved, close }: Props) {
  const [values, setValues] = useState({ name, sharing });
  const [complaint, setComplaint] = useState<string>();
  const write = useWrite<{ id: number }>({ quiet: true });
  const save = () => {
    const design = making?.design ? { design: JSON.stringify(making.design) } : {};
    const body = making ? { ...values, object: making.object, ...design } : values;
    write.mutate(
      existing
        ? { method: 'PATCH', path: existing.path, version: existing.version, body }
        : { method: 'POST', path: `/${making?.path ?? 'views'}`, body },
      {
        onSuccess: ({ value }) => {
          onSaved(value.id);
          close();
        },
        onError: (error) =>
          setComplaint(
            error instanceof ApiProblem
              ? (error.fault('name') ?? error.message)
              : 'This could not be saved. Try again.',
          ),
      },
    );
  };
  return (
    <Modal
      open
      title={title}
      okText={action}
      onCancel={close}
      onOk={save}
      okButtonProps={{ disabled: values.name.trim() === '', loading: write.isPending }}
      width={430}
    >
      <Form layout="vertical" onSubmitCapture={save}>
        <Form.Item
          label="Name"
          htmlFor="view-name"
          help={complaint}
          validateStatus={complaint ? 'error' : ''}
        >
          <Input
            id="view-name"
            autoFocus
            maxLength={80}
            value={values.name}
            onChange={(event) => setValues({ ...values, name: event.target.value })}
            onPressEnter={(event) => {
              event.preventDefault();
              if (values.name.trim()) save();
            }}
          />
        </Form.Item>
        <Form.Item label="Seen by">
          <Radio.Group
            value={values.sharing}
            onChange={(event) => setValues({ ...values, sharing: event.target.value as Sharing })}
            options={[
              { value: 'private', label: 'Only me' },
              { value: 'team', label: 'My team' },
              { value: 'everyone', label: 'Everyone' },
            ]}
          />
        </Form.Item>
        <p className="second">Each person sees in it only what they may see.</p>
      </Form>
    </Modal>
  );
}
