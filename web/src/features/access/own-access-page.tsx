import { useMutation, useQuery } from '@tanstack/react-query';
import { type OwnAccess, type SignInTry } from '@zawn/core';
import { Alert, Button, Form, Input } from 'antd';
import { useState } from 'react';
import { call } from '../../platform/api/client';
import { RECORDS } from '../../platform/api/queries';
import { useNotices } from '../../platform/api/use-write';
import { clock, nearDate } from '../../platform/frame/format';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { browserName } from './browser-name';
import { SecondStep } from './second-step';
import './access.css';

interface Changing {
  present: string;
  password: string;
}

/** Changes one’s own password. */
function PasswordForm({ changed }: { changed: () => void }) {
  const [form] = Form.useForm<Changing>();
  const [isDone, setDone] = useState(false);
  const change = useMutation({
    mutationFn: (body: Changing) => call('PATCH', '/session/password', { body }),
    onSuccess: () => {
      form.resetFields();
      setDone(true);
      changed();
    },
  });
  return (
    <Form<Changing>
      form={form}
      layout="vertical"
      requiredMark={false}
      onFinish={(values) => {
        setDone(false);
        change.mutate(values);
      }}
    >
      {change.error && <Alert type="error" title={change.error.message} role="alert" />}
      <Form.Item
        name="present"
        label="Present password"
        rules={[{ required: true, message: 'Enter your present password' }]}
      >
        <Input.Password autoComplete="current-password" />
      </Form.Item>
      <Form.Item
        name="password"
        label="New password, at least 10 characters"
        rules={[{ required: true, message: 'Choose a password' }]}
      >
        <Input.Password autoComplete="new-password" />
      </Form.Item>
      <Button htmlType="submit" loading={change.isPending}>
        Change the password
      </Button>
      {isDone && <p role="status">Changed. You were signed out everywhere else.</p>}
    </Form>
  );
}

const outcomeOf = ({ isIn, how }: SignInTry) =>
  !isIn
    ? 'did not get in'
    : {
        password: 'signed in',
        link: 'by a link',
        recoveryCode: 'with a recovery code',
        firstStart: 'began here',
      }[how];

/** One’s own way in: password, second step, where one is signed in, and what was tried. */
export function Component() {
  const { me, today, dayOf, timeZone } = useSession();
  const { complain } = useNotices();
  const { data, error, refetch } = useQuery({
    queryKey: [RECORDS, 'own-access'],
    queryFn: () => call<OwnAccess>('GET', '/session/access'),
  });
  const changed = () => void refetch();
  const end = useMutation({
    mutationFn: (id?: string) => call('DELETE', id ? `/session/others/${id}` : '/session/others'),
    onSuccess: changed,
    onError: complain,
  });
  const when = (at: string) => `${nearDate(dayOf(at), today)}, ${clock(at, timeZone)}`;
  const others = data?.sessions.filter(({ isThis }) => !isThis) ?? [];
  return (
    <>
      <header className="page-head">
        <h1>Your sign-in</h1>
        <span className="page-count">{me.email}</span>
      </header>
      {error ? (
        <Trouble error={error} retry={changed} />
      ) : !data ? (
        <Skeleton rows={7} />
      ) : (
        <div className="own-access">
          <section>
            <h2>Password</h2>
            <PasswordForm changed={changed} />
          </section>
          <section>
            <h2>Second step</h2>
            <SecondStep step={data.secondStep} changed={changed} />
          </section>
          <section>
            <h2>Signed in</h2>
            <ul className="access-list" aria-label="Where you are signed in">
              {data.sessions.map(({ id, at, address, browser, isThis }) => (
                <li key={id}>
                  <b className="clip">{browserName(browser)}</b>
                  <span className="second clip">{address}</span>
                  <span className="second">since {when(at)}</span>
                  {isThis ? (
                    <span>here</span>
                  ) : (
                    <Button
                      size="small"
                      aria-label={`End ${browserName(browser)} since ${when(at)}`}
                      onClick={() => end.mutate(id)}
                    >
                      End
                    </Button>
                  )}
                </li>
              ))}
            </ul>
            {others.length > 1 && (
              <Button onClick={() => end.mutate(undefined)}>Sign out everywhere else</Button>
            )}
          </section>
          <section>
            <h2>Sign-ins lately</h2>
            <ul className="access-list" aria-label="Sign-ins lately">
              {data.signIns.map((signIn) => (
                <li
                  key={`${signIn.at} ${signIn.how} ${signIn.browser}`}
                  className={signIn.isIn ? '' : 'late'}
                >
                  <b>{outcomeOf(signIn)}</b>
                  <span className="second clip">{signIn.address}</span>
                  <span className="second">{when(signIn.at)}</span>
                  <span className="second clip">{browserName(signIn.browser)}</span>
                </li>
              ))}
            </ul>
          </section>
        </div>
      )}
    </>
  );
}
