import { type ObjectKey } from '@zawn/core';
import { Form, Input, Modal, Radio, Select } from 'antd';
import { useState } from 'react';
import { ApiProblem } from '../../platform/api/client';
import { useWrite } from '../../platform/api/use-write';
import { useSession } from '../../platform/sessions/session';

export type Sharing = 'private' | 'team' | 'teams' | 'everyone';

interface Props {
  title: string;
  /** What the button does: `Save view`. */
  action: string;
  name: string;
  sharing: Sharing;
  /** What it shows, where that is said in a sentence. */
  about?: string;
  /** The teams it is shared with, where it can be shared with several. */
  teams?: readonly string[];
  /** The one that is renamed or shared anew; a new one when left out. */
  existing?: { path: string; version: number };
  /** What a new one is made of. */
  making?: {
    path: 'views' | 'lists' | 'reports' | 'dashboards' | 'folders' | 'packs';
    object?: ObjectKey;
    design?: object;
    /** What else it is made with. */
    more?: object;
  };
  onSaved: (id: number) => void;
  close: () => void;
}

/** The name of something that is shared, such as a view or a report, and who sees it. */
export function SaveDialog(props: Props) {
  const { title, action, name, sharing, about, teams, existing, making, onSaved, close } = props;
  const { teams: all } = useSession();
  const [values, setValues] = useState({
    name,
    sharing,
    ...(about === undefined ? {} : { about }),
    ...(teams === undefined ? {} : { teams }),
  });
  const isUnshared = values.sharing === 'teams' && (values.teams ?? []).length === 0;
  const [complaint, setComplaint] = useState<string>();
  const write = useWrite<{ id: number }>({ quiet: true });
  const save = () => {
    const design = making?.design ? { design: JSON.stringify(making.design) } : {};
    const said = { ...values, ...(values.about === undefined ? {} : { about: values.about.trim() || null }) };
    const of = making?.object ? { object: making.object } : {};
    const body = making ? { ...said, ...of, ...design, ...making.more } : said;
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
      okButtonProps={{ disabled: values.name.trim() === '' || isUnshared, loading: write.isPending }}
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
        {values.about !== undefined && (
          <Form.Item label="What it shows, in a sentence" htmlFor="view-about">
            <Input.TextArea
              id="view-about"
              maxLength={300}
              autoSize={{ minRows: 2, maxRows: 4 }}
              value={values.about}
              onChange={(event) => setValues({ ...values, about: event.target.value })}
            />
          </Form.Item>
        )}
        <Form.Item label="Seen by">
          <Radio.Group
            value={values.sharing}
            onChange={(event) => setValues({ ...values, sharing: event.target.value as Sharing })}
            options={[
              { value: 'private', label: 'Only me' },
              { value: 'team', label: 'My team' },
              ...(teams === undefined ? [] : [{ value: 'teams', label: 'Certain teams' }]),
              { value: 'everyone', label: 'Everyone' },
            ]}
          />
        </Form.Item>
        {values.sharing === 'teams' && (
          <Form.Item label="Teams" htmlFor="view-teams">
            <Select
              id="view-teams"
              mode="multiple"
              value={[...(values.teams ?? [])]}
              onChange={(chosen: string[]) => setValues({ ...values, teams: chosen })}
              options={all.map((team) => ({ value: String(team.id), label: team.name }))}
              optionFilterProp="label"
              placeholder="Which teams"
            />
          </Form.Item>
        )}
        <p className="second">Each person sees in it only what they may see.</p>
      </Form>
    </Modal>
  );
}
