import { Alert, Button, Form, Input } from 'antd';
import { useState } from 'react';
import { call } from '../api/client';
import { SignInPicture } from './sign-in-picture';
import './sign-in.css';

/** Asks for a link to set a new password. Whether somebody has the address is told to nobody. */
export function PasswordForgotten({ back }: { back: () => void }) {
  const [problem, setProblem] = useState<string>();
  const [sentTo, setSentTo] = useState<string>();
  const ask = async ({ email }: { email: string }) => {
    setProblem(undefined);
    try {
      await call('POST', '/password-links', { body: { email } });
      setSentTo(email.trim());
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  return (
    <div className="sign-in">
      <SignInPicture />
      <main className="sign-in-form">
        <h1>Zawn</h1>
        <p className="sign-in-line">A link to set a new password comes by email.</p>
        {problem && <Alert type="error" title={problem} role="alert" />}
        {sentTo ? (
          <p role="status">
            If somebody here has the address {sentTo}, a link is on its way. It works for two hours.
          </p>
        ) : (
          <Form<{ email: string }>
            layout="vertical"
            requiredMark={false}
            onFinish={(values) => void ask(values)}
          >
            <Form.Item
              name="email"
              label="Email"
              rules={[{ required: true, message: 'Enter your email address' }]}
            >
              <Input autoComplete="username" autoFocus />
            </Form.Item>
            <Button type="primary" htmlType="submit" block>
              Send the link
            </Button>
          </Form>
        )}
        <Button type="link" className="sign-in-forgotten" onClick={back}>
          Back to sign-in
        </Button>
      </main>
    </div>
  );
}
