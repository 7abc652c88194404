import { type NewPasswordLink } from '@zawn/core';
import { Button, Form, Input, Select, Typography } from 'antd';
import { ApiProblem } from '../../platform/api/client';
import { date } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import { roleOptions } from './roles';

/** What is asked of somebody who is invited. */
export interface Invited {
  name: string;
  email: string;
  jobTitle?: string;
  role: string;
  team?: number;
}

/** A link just made, to be handed over. */
export function MadeLink({ link, name }: { link: NewPasswordLink; name: string }) {
  return (
    <section className="people-link" role="status">
      <h2>{link.purpose === 'invitation' ? `${name} is invited` : `A new way in for ${name}`}</h2>
      <p>
        {link.isMailed
          ? 'The link was sent by email. Or hand it over'
          : 'Zawn sends no mail here: hand this over'}{' '}
        yourself. It works once, until {date(link.expiresAt.slice(0, 10))}, and is shown only now.
      </p>
      <Typography.Text copyable code>
        {link.address}
      </Typography.Text>
    </section>
  );
}

/** Asks who is invited. */
export function Invite({
  invite,
  close,
  isBusy,
}: {
  /** @throws ApiProblem that names what is wrong with which field. */
  invite: (values: Invited) => Promise<unknown>;
  close: () => void;
  isBusy: boolean;
}) {
  const { teams, roles } = useSession();
  const offered = roleOptions(roles);
  const [form] = Form.useForm<Invited>();
  const send = (values: Invited) =>
    invite(values).catch((error: unknown) => {
      if (!(error instanceof ApiProblem)) return;
      const faults = error.problem.faults ?? [];
      form.setFields(faults.map(({ field, message }) => ({ name: field as never, errors: [message] })));
    });
  return (
    <Form<Invited>
      form={form}
      className="people-invite"
      layout="vertical"
      requiredMark={false}
      initialValues={{ role: offered[0]?.value, team: teams[0]?.id }}
      onFinish={(values) => void send(values)}
    >
      <Form.Item name="name" label="Name" rules={[{ required: true, message: 'Enter a name' }]}>
        <Input autoFocus maxLength={200} />
      </Form.Item>
      <Form.Item name="email" label="Email" rules={[{ required: true, message: 'Enter an email address' }]}>
        <Input maxLength={254} />
      </Form.Item>
      <Form.Item name="jobTitle" label="Job title">
        <Input maxLength={200} />
      </Form.Item>
      <Form.Item name="role" label="Role">
        <Select options={offered} />
      </Form.Item>
      <Form.Item name="team" label="Team">
        <Select allowClear options={teams.map(({ id, name }) => ({ value: id, label: name }))} />
      </Form.Item>
      <div className="people-invite-do">
        <Button type="primary" htmlType="submit" loading={isBusy}>
          Invite
        </Button>
        <Button onClick={close}>Cancel</Button>
      </div>
    </Form>
  );
}
