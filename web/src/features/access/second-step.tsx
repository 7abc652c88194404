import { useMutation } from '@tanstack/react-query';
import { type NewSecondStep, type OwnAccess } from '@zawn/core';
import { Alert, Button, Input, Typography } from 'antd';
import { useState } from 'react';
import { call } from '../../platform/api/client';
import { counted } from '../../platform/frame/format';

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
export function SecondStep({ step, changed }: { step: OwnAccess['secondStep']; changed: () => void }) {
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
        {step.isAsked && <p className="second">Your role asks for it, so it stays on.</p>}
        <form
          hidden={step.isAsked}
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
        <p>
          {!step.isAsked && 'Off. '}With it on, whoever learns your password still cannot get in without your
          device.
        </p>
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
