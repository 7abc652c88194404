import { useMutation, useQuery } from '@tanstack/react-query';
import {
  ask,
  type EntriesWritten,
  type Holiday,
  type HolidaysRead,
  type RecordOf,
  type Written,
} from '@zawn/core';
import { Alert, Button, DatePicker, Input, Select } from 'antd';
import dayjs, { type Dayjs } from 'dayjs';
import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { Allowed } from '../../platform/sessions/allowed';
import { call } from '../../platform/api/client';
import { allRecords } from '../../platform/api/queries';
import { useNotices, useWrite } from '../../platform/api/use-write';
import { FileDrop } from '../../platform/frame/file-drop';
import { counted, date, weekDayName } from '../../platform/frame/format';
import { Skeleton } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { enteredInWords } from './entered-in-words';

const HOLIDAYS = { ...ask('holiday'), sort: [{ field: 'day' }] };
/** What stands for a holiday of everybody. */
const EVERYBODY = 0;
/** Faults that are shown. */
const FAULTS = 6;

const weekDayOf = (day: string) => weekDayName(dayjs(day).day());

/** What became of holidays that were entered, said and undoable. */
function useEnter() {
  const { announce, complain } = useNotices();
  return useMutation({
    mutationFn: (holidays: readonly Holiday[]) =>
      call<Written<EntriesWritten>>('POST', '/holidays/entries', { body: { holidays } }),
    onSuccess: ({ unit, label, value }) =>
      announce({ unit, label: enteredInWords(label, value, 'by another name') }),
    onError: complain,
  });
}

interface ForProps {
  team: number;
  setTeam: (team: number) => void;
  label: string;
}

/** For whom a day is a holiday. */
function For({ team, setTeam, label }: ForProps) {
  const { teams } = useSession();
  return (
    <Select
      value={team}
      options={[
        { value: EVERYBODY, label: 'for everybody' },
        ...teams.map(({ id, name }) => ({ value: id, label: `for ${name}` })),
      ]}
      popupMatchSelectWidth={false}
      onChange={setTeam}
      aria-label={label}
    />
  );
}

/** Holidays from a calendar file: shown first, then entered. */
function FromFile() {
  const { complain } = useNotices();
  const [read, setRead] = useState<HolidaysRead & { name: string }>();
  const [team, setTeam] = useState(EVERYBODY);
  const enter = useEnter();
  const look = useMutation({
    mutationFn: async (file: File) => ({
      ...(await call<HolidaysRead>('POST', '/holidays/read', { body: { text: await file.text() } })),
      name: file.name,
    }),
    onSuccess: setRead,
    onError: complain,
  });
  const count = read?.holidays.length ?? 0;
  return (
    <div className="many-rates">
      <FileDrop
        onFiles={([file]) => look.mutate(file)}
        accept=".ics,.ical,text/calendar"
        label="A calendar file of holidays"
        button="Choose a calendar file"
      >
        <p className="second">Public holidays as an iCalendar file (.ics), dropped here or chosen.</p>
      </FileDrop>
      {read && read.faults.length > 0 && (
        <Alert
          type="warning"
          title={`${counted(read.faults.length, 'entry', 'entries')} of ${read.name} left out`}
          description={
            <ul>
              {read.faults.slice(0, FAULTS).map((fault) => (
                <li key={fault}>{fault}</li>
              ))}
              {read.faults.length > FAULTS && <li>and {read.faults.length - FAULTS} more</li>}
            </ul>
          }
        />
      )}
      {read && count > 0 && (
        <div className="one-rate">
          <Button
            type="primary"
            loading={enter.isPending}
            onClick={() =>
              enter.mutate(
                read.holidays.map((each) => ({ ...each, team: team === EVERYBODY ? null : team })),
                { onSuccess: () => setRead(undefined) },
              )
            }
          >
            Enter {counted(count, 'holiday')}
          </Button>
          <For team={team} setTeam={setTeam} label="For whom these are holidays" />
          <span className="second">
            {date(read.holidays[0].day)} to {date(read.holidays[count - 1].day)}
          </span>
        </div>
      )}
    </div>
  );
}

/** One holiday, by hand. */
function OneHoliday() {
  const [day, setDay] = useState<Dayjs | null>(null);
  const [name, setName] = useState('');
  const [team, setTeam] = useState(EVERYBODY);
  const enter = useEnter();
  const isReady = day !== null && name.trim() !== '';
  return (
    <form
      className="one-rate"
      onSubmit={(event) => {
        event.preventDefault();
        if (!isReady) return;
        const holiday = {
          day: day.format('YYYY-MM-DD'),
          name: name.trim(),
          team: team === EVERYBODY ? null : team,
        };
        enter.mutate([holiday], { onSuccess: () => setName('') });
      }}
    >
      <DatePicker value={day} format="D MMM YYYY" onChange={setDay} aria-label="Day of the holiday" />
      <Input
        value={name}
        maxLength={100}
        placeholder="What it is called"
        onChange={({ target }) => setName(target.value)}
        aria-label="Name of the holiday"
      />
      <For team={team} setTeam={setTeam} label="For whom it is a holiday" />
      <Button htmlType="submit" disabled={!isReady} loading={enter.isPending}>
        Enter
      </Button>
    </form>
  );
}

/** The days on which nobody works, those to come first. */
export function Holidays() {
  const { today, teams } = useSession();
  const { data } = useQuery(allRecords(HOLIDAYS));
  const write = useWrite();
  const [showsPast, setShowsPast] = useState(false);
  if (!data) return <Skeleton rows={4} />;
  const all = data.rows as unknown as RecordOf<'holiday'>[];
  const coming = all.filter(({ day }) => day >= today);
  const shown = showsPast ? all : coming;
  return (
    <section className="holidays" aria-label="Holidays">
      <h2>Holidays</h2>
      <Allowed object="holiday" to="add">
        <OneHoliday />
        <FromFile />
      </Allowed>
      {all.length === 0 && <p className="second">None yet: every working day of the week is one.</p>}
      <ul className="holiday-list">
        {shown.map((holiday) => (
          <li key={holiday.id} className={holiday.day < today ? 'second' : ''}>
            <span className="figure">{date(holiday.day)}</span>
            <span className="second">{weekDayOf(holiday.day)}</span>
            <b className="clip">{holiday.name}</b>
            <span className="second clip">
              {holiday.team === null
                ? ''
                : `for ${teams.find(({ id }) => id === holiday.team)?.name ?? 'a team'}`}
            </span>
            <Allowed object="holiday" to="delete">
              <Button
                type="text"
                size="small"
                icon={<Trash2 size={14} />}
                aria-label={`Delete ${holiday.name}, ${date(holiday.day)}`}
                onClick={() =>
                  write.mutate({
                    method: 'DELETE',
                    path: `/holidays/${holiday.id}`,
                    version: holiday.version,
                  })
                }
              />
            </Allowed>
          </li>
        ))}
      </ul>
      {coming.length < all.length && (
        <Button size="small" onClick={() => setShowsPast(!showsPast)}>
          {showsPast ? 'Only those to come' : `${counted(all.length - coming.length, 'past holiday')}`}
        </Button>
      )}
    </section>
  );
}
