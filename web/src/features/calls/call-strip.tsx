import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type PhoneCall } from '@zawn/core';
import { readablePhone } from '@zawn/core/phone';
import { Button, Input } from 'antd';
import { type TextAreaRef } from 'antd/es/input/TextArea';
import { Phone, PhoneIncoming, PhoneOff, PhoneOutgoing } from 'lucide-react';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { call as request } from '../../platform/api/client';
import { useNotices, useWrite } from '../../platform/api/use-write';
import { useOpening } from '../../platform/frame/opening';
import { useShortcuts } from '../../platform/frame/shortcuts';
import { NextStepFields } from '../activities/next-step-fields';
import { OutcomeChips } from '../activities/outcome-chips';
import { useEnding } from '../activities/use-ending';
import { useCallNext } from './call-next';
import { currentCall } from './current-call';
import { LastExchanges } from './last-exchanges';
import './calls.css';

interface Props {
  call: PhoneCall;
  /** The server’s clock when it told of the call. */
  now: string;
}

const SECOND_MS = 1000;

/** `1:05`; nothing before it begins. */
function lasted(milliseconds: number): string {
  const seconds = Math.max(0, Math.round(milliseconds / SECOND_MS));
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
}

/** The server’s clock as it goes on here. */
function useServerClock(told: string): number {
  const [ahead] = useState(() => Date.parse(told) - Date.now());
  const [now, setNow] = useState(() => Date.parse(told));
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now() + ahead), SECOND_MS / 2);
    return () => clearInterval(timer);
  }, [ahead]);
  return now;
}

const ends: Record<NonNullable<PhoneCall['end']>, string> = {
  hungUp: 'You hung up',
  theyHungUp: 'They hung up',
  busy: 'Busy',
  unanswered: 'No answer',
  declined: 'Not taken',
  missed: 'Missed',
  cut: 'The line was cut',
};

/** The outcome that how a call ended suggests, where the organisation has such a one. */
function suggestedBy({ end, answeredBy }: PhoneCall): string | undefined {
  if (end === 'busy' || end === 'unanswered') return 'noAnswer';
  return answeredBy === 'machine' ? 'message' : undefined;
}

/** How a call stands, in words. */
function Standing({ call, now }: Props): ReactNode {
  const clock = useServerClock(now);
  const { state, end, direction, answeredBy, startedAt, answeredAt, endedAt } = call;
  if (state === 'ringing')
    return `${direction === 'in' ? 'Calls you' : 'Ringing'}, ${lasted(clock - Date.parse(startedAt))}`;
  const whom = answeredBy === 'machine' ? 'Voicemail' : 'Talking';
  if (state === 'talking') return `${whom}, ${lasted(clock - Date.parse(answeredAt ?? startedAt))}`;
  const length = answeredAt && endedAt ? `, ${lasted(Date.parse(endedAt) - Date.parse(answeredAt))}` : '';
  return `${end ? ends[end] : 'Ended'}${length}`;
}

/** The call one is on, or was on last: who it is, what was said before, and what came of it, in one place. */
export default function CallStrip({ call, now }: Props) {
  const { id, direction, number, state, on } = call;
  const { open } = useOpening();
  const { complain } = useNotices();
  const queryClient = useQueryClient();
  const line = useMutation({
    mutationFn: (act: 'answer' | 'hang-up') => request<PhoneCall>('POST', `/calls/${id}/${act}`),
    onError: complain,
    onSettled: () => queryClient.invalidateQueries({ queryKey: currentCall().queryKey }),
  });
  const isRinging = state === 'ringing' && direction === 'in';
  useShortcuts(
    'Call',
    state === 'ended'
      ? []
      : [
          ...(isRinging ? [{ keys: 'a', does: 'Take the call', run: () => line.mutate('answer') }] : []),
          { keys: 'h', does: isRinging ? 'Do not take it' : 'Hang up', run: () => line.mutate('hang-up') },
        ],
  );
  const Sign = direction === 'in' ? PhoneIncoming : PhoneOutgoing;
  return (
    <section className="call-strip" aria-label="Call">
      <div className={`call-who call-${state}`}>
        <h2>
          <Sign size={16} aria-hidden />
          {on ? (
            <button type="button" className="link-button clip" onClick={() => open(on.object, on.id)}>
              {on.name}
            </button>
          ) : (
            <span>Nobody on file</span>
          )}
        </h2>
        <p>{readablePhone(number)}</p>
        <p className="call-standing" role="status">
          <Standing call={call} now={now} />
        </p>
        {state !== 'ended' && (
          <div className="done-actions">
            {isRinging && (
              <Button type="primary" icon={<Phone size={14} />} onClick={() => line.mutate('answer')}>
                Take it <kbd>a</kbd>
              </Button>
            )}
            <Button danger={!isRinging} icon={<PhoneOff size={14} />} onClick={() => line.mutate('hang-up')}>
              {isRinging ? 'Not now' : 'Hang up'} <kbd>h</kbd>
            </Button>
          </div>
        )}
        {!on && <MakeLead call={id} />}
      </div>
      {on ? (
        <LastExchanges on={on} without={call.activity} />
      ) : (
        <p className="second call-before">Nobody you see has this number, or several have it.</p>
      )}
      {!isRinging && <Ending call={call} />}
    </section>
  );
}

/** A caller nobody knows becomes a lead. */
function MakeLead({ call }: { call: number }) {
  const [name, setName] = useState('');
  const write = useWrite();
  const save = () => {
    if (name.trim())
      write.mutate({ method: 'POST', path: `/calls/${call}/lead`, body: { name: name.trim() } });
  };
  return (
    <form
      className="call-lead"
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <Input
        value={name}
        onChange={({ target }) => setName(target.value)}
        placeholder="Who is it"
        aria-label="Name of the caller"
        maxLength={200}
      />
      <Button htmlType="submit" disabled={!name.trim()} loading={write.isPending}>
        Make a lead
      </Button>
    </form>
  );
}

/** What came of it: outcome, note and next step, saved together once the call has ended. */
function Ending({ call }: { call: PhoneCall }) {
  const ending = useEnding('call', 'call');
  const [asksAgain, setAsksAgain] = useState(false);
  const note = useRef<TextAreaRef>(null);
  const form = useRef<HTMLFormElement>(null);
  const write = useWrite();
  const queryClient = useQueryClient();
  const callNext = useCallNext();
  const hasEnded = call.state === 'ended';
  const suggested = suggestedBy(call);
  // Once it has ended the digits choose, unless somebody is in the middle of typing.
  useEffect(() => {
    if (!hasEnded) return;
    if (suggested && ending.outcome === null) ending.choose(suggested);
    const isTyping = document.activeElement?.matches('input, textarea, [contenteditable]');
    if (!isTyping) form.current?.querySelector<HTMLElement>('.chip')?.focus();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- Once, when it ends.
  }, [hasEnded]);
  const save = (goesOn = call.list !== null) => {
    if (!hasEnded || ending.next.isHalf) return;
    if (ending.outcome === null && !asksAgain) {
      setAsksAgain(true);
      return;
    }
    write.mutate(
      { method: 'POST', path: `/calls/${call.id}/outcome`, body: ending.body },
      {
        onSuccess: () => {
          if (goesOn && call.list !== null) void callNext(call.list);
          else void queryClient.invalidateQueries({ queryKey: currentCall().queryKey });
        },
      },
    );
  };
  return (
    <form
      ref={form}
      className="call-ending"
      aria-label="What came of the call"
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <OutcomeChips
        kind="call"
        value={ending.outcome}
        onChange={(key) => {
          ending.choose(key);
          setAsksAgain(false);
          note.current?.focus();
        }}
      />
      <Input.TextArea
        ref={note}
        autoSize={{ minRows: 1, maxRows: 3 }}
        value={ending.result}
        onChange={({ target }) => ending.setResult(target.value)}
        onPressEnter={(event) => {
          if (event.shiftKey) return;
          event.preventDefault();
          save();
        }}
        placeholder="What was said"
        aria-label="Note"
        maxLength={5000}
      />
      <NextStepFields draft={ending.next} />
      <div className="done-actions">
        <Button
          type="primary"
          htmlType="submit"
          loading={write.isPending}
          disabled={!hasEnded || ending.next.isHalf}
        >
          {asksAgain
            ? 'Save without an outcome'
            : call.list === null
              ? 'Save the call'
              : 'Save, call the next'}
        </Button>
        {call.list !== null && hasEnded && (
          <Button disabled={ending.next.isHalf} onClick={() => save(false)}>
            Save and pause
          </Button>
        )}
        {asksAgain && (
          <span className="attention" role="alert">
            How did it end? Choose an outcome, or press Enter again to leave it open.
          </span>
        )}
        {!hasEnded && <span className="second">Can be saved once it has ended</span>}
      </div>
    </form>
  );
}
