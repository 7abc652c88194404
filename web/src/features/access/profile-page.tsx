import { useMutation } from '@tanstack/react-query';
import { workingCalendar, type AnyRecord, type BusinessHours, type Profile, type Written } from '@zawn/core';
import { Button, Input, Segmented, Select } from 'antd';
import { useId, useRef, type ReactNode } from 'react';
import { call } from '../../platform/api/client';
import { useNotices, useWrite } from '../../platform/api/use-write';
import { date, money, number } from '../../platform/frame/format';
import { HoursFields } from '../../platform/frame/hours-fields';
import { PersonMark } from '../../platform/frame/person-mark';
import { organisationOptions } from '../../platform/sessions/organisation-options';
import { useOwnMode } from '../../platform/sessions/own-mode';
import { useSession } from '../../platform/sessions/session';
import { usePreferences } from '../../platform/sessions/use-preferences';
import { TaskDefaultsFields } from '../activities/task-defaults-fields';
import { squarePhoto } from './square-photo';
import { KeptName, KeptText } from '../../platform/frame/kept-field';
import './profile.css';

/** Languages that dates and numbers can be written in. */
const LANGUAGES =
  'en-GB en-US en-AU en-CA en-IE en-IN cs-CZ da-DK de-AT de-CH de-DE el-GR es-ES es-MX et-EE fi-FI fr-BE fr-CA fr-CH fr-FR hu-HU is-IS it-IT ja-JP ko-KR lt-LT lv-LV nb-NO nl-BE nl-NL pl-PL pt-BR pt-PT ro-RO sk-SK sl-SI sv-SE tr-TR uk-UA zh-CN';
/** The language that dates and numbers are in where the person has not chosen one. */
const BROWSER = '';
const ORGANISATION = '';

function languages() {
  const names = new Intl.DisplayNames('en', { type: 'language' });
  return [
    { value: BROWSER, label: 'as this browser has it' },
    ...LANGUAGES.split(' ')
      .map((tag) => ({ value: tag, label: names.of(tag) ?? tag }))
      .sort((a, b) => a.label.localeCompare(b.label)),
  ];
}

function Line({ label, children }: { label: string; children: (id: string) => ReactNode }) {
  const id = useId();
  return (
    <div className="profile-line">
      <label htmlFor={id}>{label}</label>
      {children(id)}
    </div>
  );
}

/** A photo for colleagues to know the person by. */
function Photo() {
  const { me, profile } = useSession();
  const { announce, complain } = useNotices();
  const input = useRef<HTMLInputElement>(null);
  const put = useMutation({
    mutationFn: async (file: File) => {
      const content = await squarePhoto(file);
      return call<Written<AnyRecord>>('PATCH', '/session/photo', { file: content });
    },
    onSuccess: announce,
    onError: complain,
  });
  const remove = useMutation({
    mutationFn: () => call<Written<AnyRecord>>('DELETE', '/session/photo'),
    onSuccess: announce,
    onError: complain,
  });
  return (
    <div className="profile-photo">
      <PersonMark {...me} photo={profile.photo} />
      <Button loading={put.isPending} onClick={() => input.current?.click()}>
        {profile.photo === null ? 'Choose a photo' : 'Another photo'}
      </Button>
      {profile.photo !== null && <Button onClick={() => remove.mutate()}>Take it away</Button>}
      <input
        ref={input}
        type="file"
        accept="image/*"
        hidden
        aria-label="Photo"
        onChange={({ target }) => {
          const file = target.files?.[0];
          if (file) put.mutate(file);
          // So that the same file can be chosen again.
          target.value = '';
        }}
      />
    </div>
  );
}

/** What one says about oneself, and how one wants Zawn to write. Each is kept as soon as it is chosen. */
export function Component() {
  const session = useSession();
  const { me, profile, organisation, today } = session;
  const write = useWrite();
  const [{ locale }, setPreferences] = usePreferences();
  const [mode, setMode] = useOwnMode();
  const change = (body: Partial<Profile> | BusinessHours) =>
    write.mutateAsync({ method: 'PATCH', path: '/session/profile', body });
  const keep = (body: Partial<Profile>) => void change(body).catch(() => undefined);
  const search = { showSearch: { optionFilterProp: 'label' as const } };
  return (
    <>
      <header className="page-head">
        <h1>Your profile</h1>
        <span className="page-count">{me.email}; kept as soon as it is chosen</span>
      </header>
      <div className="profile">
        <section aria-label="Who you are">
          <h2>Who you are</h2>
          <Photo />
          <Line label="Name">
            {(id) => (
              <KeptName id={id} value={profile.name} maxLength={200} keep={(name) => keep({ name })} />
            )}
          </Line>
          <Line label="Job title">
            {(id) => (
              <KeptText
                id={id}
                value={profile.jobTitle}
                maxLength={200}
                keep={(jobTitle) => keep({ jobTitle })}
              />
            )}
          </Line>
          <Line label="Signature">
            {(id) => (
              <Input.TextArea
                id={id}
                maxLength={2000}
                autoSize={{ minRows: 3, maxRows: 10 }}
                key={profile.signature}
                defaultValue={profile.signature ?? ''}
                onBlur={({ target }) => {
                  const signature = target.value.trim();
                  if (signature !== (profile.signature ?? '')) keep({ signature: signature || null });
                }}
              />
            )}
          </Line>
        </section>
        <section aria-label="When you work">
          <h2>When you work</h2>
          <Line label="Time zone">
            {(id) => (
              <Select<string>
                id={id}
                {...search}
                value={profile.timeZone ?? ORGANISATION}
                options={[
                  { value: ORGANISATION, label: `as the organisation: ${organisation.timeZone}` },
                  ...organisationOptions().timeZones,
                ]}
                onChange={(zone) => keep({ timeZone: zone === ORGANISATION ? null : zone })}
              />
            )}
          </Line>
          <p className="second">
            Clock times are shown in your time zone. What is due today, this week or this quarter goes by the
            organisation’s, {organisation.timeZone}, for everybody alike.
          </p>
          <div className="profile-line">
            <span>Working hours</span>
            <HoursFields
              of="your own"
              hours={profile}
              otherwise={workingCalendar(session, me.team)}
              change={change}
              canInherit
            />
          </div>
        </section>
        <TaskDefaultsFields />
        <section aria-label="How Zawn writes">
          <h2>How Zawn writes</h2>
          <Line label="Dates and numbers">
            {(id) => (
              <Select<string>
                id={id}
                {...search}
                value={locale ?? BROWSER}
                options={languages()}
                onChange={(next) => void setPreferences({ locale: next === BROWSER ? null : next })}
              />
            )}
          </Line>
          <p className="second">
            {date(today)}, {number(12345.6)}, {money(4_600_000, organisation.currency)}
          </p>
          <div className="profile-line">
            <span>Colours</span>
            <Segmented
              value={mode}
              options={[
                { value: 'light', label: 'Light' },
                { value: 'dark', label: 'Dark' },
              ]}
              onChange={setMode}
              aria-label="Colours"
            />
          </div>
        </section>
      </div>
    </>
  );
}
