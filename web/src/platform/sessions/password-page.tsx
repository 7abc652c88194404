import { useQuery } from '@tanstack/react-query';
import { type PasswordLink, type SignedIn } from '@zawn/core';
import { Alert, Button, Form, Input } from 'antd';
import { useState } from 'react';
import { call } from '../api/client';
import { date } from '../frame/format';
import { Waiting } from '../frame/states';
import { SignInPicture } from './sign-in-picture';
import './sign-in.css';

interface Chosen {
  password: string;
  again: string;
}

interface Props {
  secret: string;
  enter: (answer: SignedIn) => void;
}

/** Chooses a password: for whoever was invited, or has forgotten theirs. */
export default function PasswordPage({ secret, enter }: Props) {
  const [problem, setProblem] = useState<string>();
  const [isBusy, setBusy] = useState(false);
  const { data, error } = useQuery({
    queryKey: ['password-link', secret],
    queryFn: () => call<PasswordLink>('GET', `/password-links/${encodeURIComponent(secret)}`),
    staleTime: Infinity,
    retry: false,
  });
  const leave = () => location.assign('/');
  const choose = async ({ password }: Chosen) => {
    setBusy(true);
    setProblem(undefined);
    try {
      const path = `/password-links/${encodeURIComponent(secret)}`;
      const answer = await call<SignedIn | { signedIn: false }>('POST', path, { body: { password } });
      // With a second step the sign-in asks for it.
      if (answer.signedIn) enter(answer);
      else leave();
    } catch (failure) {
      setProblem((failure as Error).message);
      setBusy(false);
    }
  };
  if (!data && !error) return <Waiting />;
  return (
    <div className="sign-in">
      <SignInPicture />
      <main className="sign-in-form">
        <h1>Zawn</h1>
        {error ? (
          <>
            <p className="sign-in-line" role="alert">
              {error.message}
            </p>
            <Button type="primary" onClick={leave}>
              Go to sign-in
            </Button>
          </>
        ) : (
          data && (
            <>
              <p className="sign-in-line">
                {data.purpose === 'invitation'
                  ? `${data.organisation} has made a place for you, ${data.name}.`
                  : `A new password for ${data.name} at ${data.organisation}.`}
              </p>
              {problem && <Alert type="error" title={problem} role="alert" />}
              <Form<Chosen> layout="vertical" requiredMark={false} onFinish={(values) => void choose(values)}>
                {/* Password managers keep the address with the password. */}
                <Form.Item label="You sign in with">
                  <Input value={data.email} readOnly autoComplete="username" aria-label="Email" />
                </Form.Item>
                <Form.Item
                  name="password"
                  label="Password, at least 10 characters"
                  rules={[{ required: true, message: 'Choose a password' }]}
                >
                  <Input.Password autoComplete="new-password" autoFocus />
                </Form.Item>
                <Form.Item
                  name="again"
                  label="The same once more"
                  dependencies={['password']}
                  rules={[
                    { required: true, message: 'Enter it once more' },
                    ({ getFieldValue }) => ({
                      validator: (_, value) =>
                        !value || value === getFieldValue('password')
                          ? Promise.resolve()
                          : Promise.reject(new Error('The two are not the same')),
                    }),
                  ]}
                >
                  <Input.Password autoComplete="new-password" />
                </Form.Item>
                <Button type="primary" htmlType="submit" loading={isBusy} block>
                  Set the password and sign in
                </Button>
              </Form>
              <p className="second">This link works once, until {date(data.expiresAt.slice(0, 10))}.</p>
            </>
          )
        )}
      </main>
    </div>
  );
}
