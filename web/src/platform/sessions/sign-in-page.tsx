import { type Sells, type SignedIn } from '@zawn/core';
import { Alert, Button, Form, Input } from 'antd';
import { useState } from 'react';
import { ApiProblem, call } from '../api/client';
import { initials } from '../frame/format';
import { PasswordForgotten } from './password-forgotten';
import { SignInPicture } from './sign-in-picture';
import { type Arrival } from './session';
import './sign-in.css';

/** Everybody's password in the demo; a normal start has no list of people and never sends it. */
const DEMO_PASSWORD = 'brackwater';

interface Credentials {
  email: string;
  password: string;
  code?: string;
}

/** Those who sell first, as most people are; then those who set up, and those who lead. */
const inOrder: readonly Sells[] = ['always', 'never', 'sometimes'];

/** The way in: email address and password, or, in the demo, one click on a person. */
export default function SignInPage({
  arrival,
  enter,
}: {
  arrival: Arrival;
  enter: (answer: SignedIn) => void;
}) {
  const [problem, setProblem] = useState<string>();
  const [isBusy, setBusy] = useState(false);
  /** The password was right, and a second step is asked for. */
  const [needsCode, setNeedsCode] = useState(false);
  const [isForgotten, setForgotten] = useState(false);
  const signIn = async (credentials: Credentials) => {
    setBusy(true);
    setProblem(undefined);
    try {
      enter(await call<SignedIn>('POST', '/session', { body: credentials }));
    } catch (error) {
      const isCodeAsked = error instanceof ApiProblem && error.problem.type === '/problems/second-step';
      setNeedsCode(isCodeAsked);
      // The first time it is asked for, nothing is wrong yet.
      setProblem(isCodeAsked && credentials.code === undefined ? undefined : (error as Error).message);
      setBusy(false);
    }
  };
  if (isForgotten) return <PasswordForgotten back={() => setForgotten(false)} />;
  const people = [...arrival.demoPeople].sort((a, b) => inOrder.indexOf(a.sells) - inOrder.indexOf(b.sells));
  return (
    <div className="sign-in">
      <SignInPicture />
      <main className="sign-in-form">
        <h1>Zawn</h1>
        <p className="sign-in-line">Leads, people, deals and promises, and how you are really doing.</p>
        {arrival.ended && (
          <Alert type="warning" title="Your session has ended. Sign in again; nothing was lost." />
        )}
        {problem && <Alert type="error" title={problem} role="alert" />}
        <Form<Credentials> layout="vertical" requiredMark={false} onFinish={(values) => void signIn(values)}>
          <Form.Item
            name="email"
            label="Email"
            rules={[{ required: true, message: 'Enter your email address' }]}
          >
            <Input autoComplete="username" autoFocus />
          </Form.Item>
          <Form.Item
            name="password"
            label="Password"
            rules={[{ required: true, message: 'Enter your password' }]}
          >
            <Input.Password autoComplete="current-password" />
          </Form.Item>
          {needsCode && (
            <Form.Item
              name="code"
              label="The six digits on your device, or a recovery code"
              rules={[{ required: true, message: 'Enter the code' }]}
            >
              <Input autoComplete="one-time-code" maxLength={20} autoFocus />
            </Form.Item>
          )}
          <Button type="primary" htmlType="submit" loading={isBusy} block>
            Sign in
          </Button>
        </Form>
        <Button type="link" className="sign-in-forgotten" onClick={() => setForgotten(true)}>
          Password forgotten
        </Button>
        {people.length > 0 && (
          <section className="sign-in-people" aria-label="People of the demo company">
            <h2>Or step in as someone at Brackwater Instruments</h2>
            <ul>
              {people.map(({ name, email, jobTitle }) => (
                <li key={email}>
                  <button
                    type="button"
                    disabled={isBusy}
                    onClick={() => void signIn({ email, password: DEMO_PASSWORD })}
                  >
                    <span className="initials">{initials(name)}</span>
                    <span>
                      <b>{name}</b>
                      <small>{jobTitle}</small>
                    </span>
                  </button>
                </li>
              ))}
            </ul>
          </section>
        )}
      </main>
    </div>
  );
}
