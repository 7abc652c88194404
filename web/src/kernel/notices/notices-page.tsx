import { useInfiniteQuery, useQueryClient } from '@tanstack/react-query';
import { MOST_REMIND_BEFORE, noticeKinds, REMIND_BEFORE, unmailedAtFirst, type NoticeKind } from '@zawn/core';
import { Button, Checkbox, DatePicker, Input, Select, Switch } from 'antd';
import dayjs, { type Dayjs } from 'dayjs';
import { Fragment } from 'react';
import { useNavigate } from 'react-router';
import { call } from '../../platform/api/client';
import { allNotices, RECORDS } from '../../platform/api/queries';
import { useNotices } from '../../platform/api/use-write';
import { KeptNumber } from '../../platform/frame/kept-field';
import { LoadEarlier } from '../../platform/frame/load-earlier';
import { clock, counted, nearDate } from '../../platform/frame/format';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { usePreferences } from '../../platform/sessions/use-preferences';
import { peopleToChoose } from '../../platform/sessions/people-to-choose';
import { useSession } from '../../platform/sessions/session';
import { mayShowInBrowser } from './in-browser';
import './notices.css';

/** When the digest comes unless one says otherwise. */
const DIGEST_AT = '07:30';

/** When one is away, and who stands in: new leads pass one by in the meantime. */
function Away() {
  const { today, people, me } = useSession();
  const [{ awayFrom = null, awayUntil = null, substitute = null }, set] = usePreferences();
  const isSet = awayUntil !== null && awayUntil >= today;
  const isAway = isSet && (awayFrom === null || awayFrom <= today);
  const asDay = (day: Dayjs | null | undefined) => day?.format('YYYY-MM-DD') ?? null;
  return (
    <section className="notice-kinds" aria-label="Being away">
      <h2>
        {isAway
          ? `You are away until ${nearDate(awayUntil, today)}`
          : isSet && awayFrom
            ? `You will be away from ${nearDate(awayFrom, today)}`
            : 'You are here'}
      </h2>
      <div className="notice-away">
        <DatePicker.RangePicker
          size="small"
          value={isSet ? [dayjs(awayFrom ?? today), dayjs(awayUntil)] : null}
          minDate={dayjs(today)}
          placeholder={['Away from', 'until']}
          onChange={(days) => void set({ awayFrom: asDay(days?.[0]), awayUntil: asDay(days?.[1]) })}
          aria-label="Away"
        />
        <Select<number>
          size="small"
          allowClear
          value={substitute}
          placeholder="Nobody stands in"
          options={peopleToChoose(
            people.filter(({ id }) => id !== me.id),
            substitute,
          ).map(({ value, label }) => ({ value, label: `${label} stands in` }))}
          showSearch={{ optionFilterProp: 'label' }}
          onChange={(person) => void set({ substitute: person ?? null })}
          aria-label="Who stands in"
        />
        <small>
          While you are away the assignment rules give new leads to others. Whoever stands in sees and works
          on what is yours, and is told what you are told.
        </small>
      </div>
    </section>
  );
}

/** Which kinds of notices one wants, here and by email: each can be switched off. */
function Kinds() {
  const [preferences, set] = usePreferences();
  const { silenced = [], unmailed = unmailedAtFirst, inBrowser = [] } = preferences;
  const { remindBefore = REMIND_BEFORE, digestAt = null } = preferences;
  const { complain } = useNotices();
  // The browser asks the person when that is first wanted.
  const setInBrowser = async (kind: NoticeKind, isOn: boolean) => {
    if (isOn && !(await mayShowInBrowser()))
      return complain(new Error('Your browser keeps notices of this site back. Allow them there first.'));
    await set({ inBrowser: isOn ? [...inBrowser, kind] : inBrowser.filter((each) => each !== kind) });
  };
  const without = (kinds: readonly NoticeKind[], kind: NoticeKind, isOn: boolean) =>
    isOn ? kinds.filter((each) => each !== kind) : [...kinds, kind];
  return (
    <section className="notice-kinds" aria-label="What you are told of">
      <h2>You are told when</h2>
      <small>Here, and by email or in the browser while you look at another page, as you want.</small>
      {noticeKinds.map(({ key, label, help }) => (
        <div key={key} className="notice-kind">
          <label>
            <Switch
              size="small"
              checked={!silenced.includes(key)}
              onChange={(isOn) => void set({ silenced: without(silenced, key, isOn) })}
            />
            <span>
              {label}
              <small>{help}</small>
            </span>
          </label>
          <div className="notice-ways">
            <Checkbox
              disabled={silenced.includes(key)}
              checked={!unmailed.includes(key) && !silenced.includes(key)}
              onChange={({ target }) => void set({ unmailed: without(unmailed, key, target.checked) })}
            >
              by email
            </Checkbox>
            <Checkbox
              disabled={silenced.includes(key)}
              checked={inBrowser.includes(key) && !silenced.includes(key)}
              onChange={({ target }) => void setInBrowser(key, target.checked)}
            >
              in the browser
            </Checkbox>
          </div>
          {key === 'dueSoon' && (
            <span className="notice-minutes">
              <KeptNumber
                value={remindBefore}
                min={0}
                max={MOST_REMIND_BEFORE}
                disabled={silenced.includes(key) || undefined}
                aria-label="Minutes before its time"
                keep={(minutes) => minutes !== null && void set({ remindBefore: minutes })}
              />{' '}
              minutes before
            </span>
          )}
        </div>
      ))}
      <div className="notice-kind">
        <label>
          <Switch
            size="small"
            checked={digestAt !== null}
            onChange={(isOn) => void set({ digestAt: isOn ? DIGEST_AT : null })}
          />
          <span>
            Your day, by email
            <small>What is due, what you did, and what others did of what you gave them, once a day.</small>
          </span>
        </label>
        {digestAt !== null && (
          <div className="notice-ways">
            <Input
              key={digestAt}
              type="time"
              required
              defaultValue={digestAt}
              onBlur={({ target }) => {
                if (target.value && target.value !== digestAt) void set({ digestAt: target.value });
              }}
              aria-label="When it comes"
            />
          </div>
        )}
      </div>
    </section>
  );
}

/** What one was told of, newest first, unread in bold. */
export function Component() {
  const { timeZone, today, dayOf } = useSession();
  const navigate = useNavigate();
  const queryClient = useQueryClient();
  const { complain } = useNotices();
  const pages = useInfiniteQuery(allNotices);
  const { data, error, refetch } = pages;
  const notices = data?.pages.flatMap((page) => page.rows) ?? [];
  const unread = data?.pages[0].unread ?? 0;
  const read = async (id?: number) => {
    await call('POST', '/notices/read', { body: id === undefined ? {} : { id } }).catch(complain);
    await queryClient.invalidateQueries({ queryKey: [RECORDS, 'notices'] });
  };
  return (
    <>
      <header className="page-head">
        <h1>Notices</h1>
        <span className="page-count">{unread > 0 ? counted(unread, 'unread', 'unread') : 'all read'}</span>
        {unread > 0 && (
          <div className="page-tools">
            <Button onClick={() => void read()}>Mark all as read</Button>
          </div>
        )}
      </header>
      <div className="notices-page">
        {error ? (
          <Trouble error={error} retry={() => void refetch()} />
        ) : !data ? (
          <Skeleton rows={6} />
        ) : notices.length === 0 ? (
          <Empty title="Nothing yet.">
            <p>New leads that are yours, what colleagues hand you, and how your imports ended stand here.</p>
          </Empty>
        ) : (
          <ol className="notices" aria-label="Notices">
            {notices.map(({ id, at, text, path, readAt }, index) => (
              <Fragment key={id}>
                {(index === 0 || dayOf(notices[index - 1].at) !== dayOf(at)) && (
                  <li className="notices-day">
                    <h2>{nearDate(dayOf(at), today)}</h2>
                  </li>
                )}
                <li className={readAt === null ? 'notice-unread' : ''}>
                  <span className="second figure">{clock(at, timeZone)}</span>
                  <a
                    href={path}
                    className="clip"
                    onClick={(event) => {
                      event.preventDefault();
                      if (readAt === null) void read(id);
                      void navigate(path);
                    }}
                  >
                    {text}
                  </a>
                  {readAt === null ? (
                    <Button size="small" onClick={() => void read(id)}>
                      Read
                    </Button>
                  ) : (
                    <span />
                  )}
                </li>
              </Fragment>
            ))}
            <LoadEarlier pages={pages} />
          </ol>
        )}
        <aside>
          <Away />
          <Kinds />
        </aside>
      </div>
    </>
  );
}
