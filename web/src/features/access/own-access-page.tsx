import { useMutation, useQuery } from '@tanstack/react-query';
import { type NewSecondStep, type OwnAccess, type SignInTry } from '@zawn/core';
import { Alert, Button, Form, Input, Typography } from 'antd';
import { useState } from 'react';
import { call } from '../../platform/api/client';
import { RECORDS } from '../../platform/api/queries';
import { useNotices } from '../../platform/api/use-write';
import { clock, counted, nearDate } from '../../platform/frame/format';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { browserName } from './browser-name';
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

/** The recovery codes, which are shown once. */
function RecoveryCodes({ codes }: { codes: readonly string[] }) {
  return (
    <div className="access-codes" role="status">
      <p>
        Keep these recovery codes where your device is not. Each lets you in once; they are shown only now.
      </p>
      <Typography.Text copyable={{ text: codes.join('\n') }} code>
        {codes.join('   ')}
      </Typography.Text>
    </div>
  );
}

/** Turns the second step of the sign-in on and off. */
function SecondStep({ step, changed }: { step: OwnAccess['secondStep']; changed: () => void }) {
  const [code, setCode] = useState('');
  const [present, setPresent] = useState('');
  const begin = useMutation({ mutationFn: () => call<NewSecondStep>('POST', '/session/second-step') });
  const confirm = useMutation({
    mutationFn: () => call<{ recoveryCodes: string[] }>('PATCH', '/session/second-step', { body: { code } }),
    onSuccess: () => {
      begin.reset();
      setCode('');
      changed();
    },
  });
  const remove = useMutation({
    mutationFn: () => call('DELETE', '/session/second-step', { body: { present } }),
    onSuccess: () => {
      confirm.reset();
      setPresent('');
      changed();
    },
  });
  const error = begin.error ?? confirm.error ?? remove.error;
  const trouble = error && <Alert type="error" title={error.message} role="alert" />;
  if (step.isOn)
    return (
      <>
        <p>
          On. The sign-in asks for a code from your device; {counted(step.recoveryCodesLeft, 'recovery code')}{' '}
          left.
        </p>
        {confirm.data && <RecoveryCodes codes={confirm.data.recoveryCodes} />}
        {trouble}
        <form
          className="access-line"
          onSubmit={(event) => {
            event.preventDefault();
            remove.mutate();
          }}
        >
          <Input.Password
            value={present}
            onChange={({ target }) => setPresent(target.value)}
            autoComplete="current-password"
            placeholder="Present password"
            aria-label="Present password, to take the second step off"
          />
          <Button htmlType="submit" disabled={present === ''} loading={remove.isPending}>
            Take it off
          </Button>
        </form>
      </>
    );
  if (!begin.data)
    return (
      <>
        <p>Off. With it on, whoever learns your password still cannot get in without your device.</p>
        {trouble}
        <Button onClick={() => begin.mutate()} loading={begin.isPending}>
          Set it up
        </Button>
      </>
    );
  return (
    <div className="access-second-step">
      <img src={`data:image/svg+xml;utf8,${encodeURIComponent(begin.data.picture)}`} alt="" />
      <div>
        <p>Scan this with an app for one-time codes, or type the secret into it:</p>
        <Typography.Text copyable code>
          {begin.data.secret}
        </Typography.Text>
        {trouble}
        <form
          className="access-line"
          onSubmit={(event) => {
            event.preventDefault();
            confirm.mutate();
          }}
        >
          <Input
            value={code}
            onChange={({ target }) => setCode(target.value)}
            maxLength={7}
            inputMode="numeric"
            autoComplete="one-time-code"
            placeholder="The six digits it shows"
            aria-label="The six digits that the device shows"
            autoFocus
          />
          <Button type="primary" htmlType="submit" disabled={code === ''} loading={confirm.isPending}>
            Turn it on
          </Button>
        </form>
      </div>
    </div>
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
  const { me, today, dayOf, organisation } = useSession();
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
  const when = (at: string) => `${nearDate(dayOf(at), today)}, ${clock(at, organisation.timeZone)}`;
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
