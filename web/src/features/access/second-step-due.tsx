import { useQueryClient } from '@tanstack/react-query';
import { Button } from 'antd';
import { useState } from 'react';
import { SESSION, useSession, useSignOut } from '../../platform/sessions/session';
import { SecondStep } from './second-step';
import './access.css';

const OFF = { isOn: false, isAsked: true, recoveryCodesLeft: 0 };
/** Those that come with a second step just set up. */
const JUST_ON = { isOn: true, isAsked: true, recoveryCodesLeft: 8 };

/** What whoever has yet to set up the second step that their role asks for sees instead of everything else. */
export default function SecondStepDue() {
  const { me } = useSession();
  const signOut = useSignOut();
  const queryClient = useQueryClient();
  const [isOn, setOn] = useState(false);
  return (
    <main className="second-step-due">
      <h1>One more step, {me.name}</h1>
      <p>
        Your role asks for a second step at the sign-in: a code from your phone beside the password. Set it
        up, and you are in.
      </p>
      <SecondStep step={isOn ? JUST_ON : OFF} changed={() => setOn(true)} />
      <p className="second-step-go">
        {isOn && (
          <Button type="primary" onClick={() => void queryClient.invalidateQueries({ queryKey: SESSION })}>
            I have kept the codes
          </Button>
        )}
        <Button onClick={() => void signOut()}>Sign out</Button>
      </p>
    </main>
  );
}
