import { useQuery } from '@tanstack/react-query';
import {
  ask,
  countries,
  isDated,
  isNumeric,
  isSetType,
  isSubject,
  isTextual,
  ME,
  MY_TEAM,
  objectType,
  periodInWords,
  relativeDayInWords,
  suggestDays,
  suggestPeriods,
  toMajor,
  toMinor,
  type Field,
  type Operand,
  type Operator,
  type RecordsPage,
  type RelativeDay,
  type SubjectKey,
} from '@zawn/core';
import { Button, Input, InputNumber } from 'antd';
import { useState } from 'react';
import { call } from '../../platform/api/client';
import { RECORDS, savedViews } from '../../platform/api/queries';
import { date } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import { type Option } from './options';
import { PickList } from './pick-list';

export interface OperandProps {
  label: string;
  field: Field;
  is: Operator;
  value: Operand | undefined;
  onChange: (value: Operand | undefined) => void;
  close: () => void;
  typed: string;
}

type Member = string | number;

/** Members to pick: choices, people, stages, countries, lists, tags. */
function useMembers(field: Field): Option<Member>[] {
  const { people, pipelines, stages, teams, organisation, rates } = useSession();
  const { data } = useQuery(savedViews);
  const of = (value: Member, label: string, group?: string): Option<Member> => ({
    key: String(value),
    label,
    value,
    ...(group === undefined ? {} : { group }),
  });
  switch (field.type) {
    case 'choice':
    case 'choices':
      return (field.choices ?? []).map(({ key, label }) => of(key, label));
    case 'country':
      return countries().map(({ code, name }) => of(code, name));
    case 'currency':
      return [...new Set([organisation.currency, ...rates.map(({ currency }) => currency)])].map((code) =>
        of(code, code),
      );
    case 'lists':
      return (data?.lists ?? []).map(({ id, name }) => of(id, name));
    case 'link':
      if (field.to === 'person') {
        const all = people.map(({ id, name, active }) => of(id, name, active ? 'People' : 'No longer here'));
        return [of(ME, 'me', 'Whoever is looking'), of(MY_TEAM, 'my team', 'Whoever is looking'), ...all];
      }
      if (field.to === 'stage') {
        return stages.map(({ id, name, pipeline }) =>
          of(id, name, pipelines.find((each) => each.id === pipeline)?.name),
        );
      }
      if (field.to === 'pipeline') return pipelines.map(({ id, name }) => of(id, name));
      if (field.to === 'team')
        return [of(MY_TEAM, 'my teams', 'Whoever is looking'), ...teams.map(({ id, name }) => of(id, name))];
      return [];
    default:
      return [];
  }
}

const NONE: readonly Member[] = [];

function Members({
  label,
  field,
  value,
  onChange,
  close,
  typed,
  found,
}: OperandProps & { found?: Option<Member>[] }) {
  const known = useMembers(field);
  const chosen = (Array.isArray(value) ? value : NONE) as readonly Member[];
  const isOwnWords = field.type === 'tags';
  const [text, setText] = useState(typed);
  const given = found ?? known;
  const own: Option<Member>[] = isOwnWords
    ? [...new Set([...chosen.map(String), ...(text.trim() ? [text.trim()] : [])])].map((tag) => ({
        key: tag,
        label: tag,
        value: tag,
      }))
    : [];
  return (
    <PickList
      label={label}
      options={isOwnWords ? own : given}
      chosen={new Set(chosen.map(String))}
      typed={typed}
      {...(isOwnWords ? { onType: setText, placeholder: 'Type a tag' } : {})}
      nothing={isOwnWords ? 'Type a tag, Enter takes it' : undefined}
      onPick={(member) => {
        const kept = chosen.includes(member) ? chosen.filter((each) => each !== member) : [...chosen, member];
        onChange(kept.length > 0 ? kept : undefined);
      }}
      onDone={close}
    />
  );
}

/** Records of an object, looked for by name as one types. */
function LinkedMembers(props: OperandProps & { to: SubjectKey | 'file' }) {
  const [text, setText] = useState(props.typed);
  const { nameField } = objectType(props.to);
  const question = ask(props.to, text ? { field: nameField, is: 'contains', value: text } : undefined);
  const { data } = useQuery({
    queryKey: [RECORDS, 'pick', question],
    queryFn: ({ signal }) =>
      call<RecordsPage>('POST', '/questions/records', {
        body: { question: { ...question, sort: [{ field: nameField }] }, limit: 30 },
        signal,
      }),
    placeholderData: (before) => before,
  });
  const chosen = (Array.isArray(props.value) ? props.value : NONE) as readonly Member[];
  return (
    <PickList
      label={props.label}
      options={(data?.rows ?? []).map((row) => ({
        key: String(row.id),
        label: String(row[nameField]),
        value: row.id,
      }))}
      onType={setText}
      chosen={new Set(chosen.map(String))}
      typed={props.typed}
      onPick={(id) => {
        const kept = chosen.includes(id) ? chosen.filter((each) => each !== id) : [...chosen, id];
        props.onChange(kept.length > 0 ? kept : undefined);
      }}
      onDone={props.close}
    />
  );
}

/** A day, said in words or as a date. */
function DayPick({
  label,
  typed,
  onPick,
}: {
  label: string;
  typed: string;
  onPick: (day: string | RelativeDay) => void;
}) {
  const { today } = useSession();
  const [text, setText] = useState(typed);
  const options = suggestDays(text, today).map((day) => ({
    key: JSON.stringify(day),
    label: typeof day === 'string' ? date(day) : relativeDayInWords(day),
    value: day,
  }));
  return (
    <PickList
      label={label}
      options={options}
      onType={setText}
      typed={typed}
      onPick={onPick}
      placeholder="12 Dec, 2026-12-31, 30 days ago"
      nothing="No day of that name. Try 12 Dec or 30 days ago."
    />
  );
}

function BetweenDays({ label, value, onChange, close, typed }: OperandProps) {
  const known = (Array.isArray(value) ? value : []) as (string | RelativeDay)[];
  const [first, setFirst] = useState<string | RelativeDay>();
  const said = (day: string | RelativeDay) => (typeof day === 'string' ? date(day) : relativeDayInWords(day));
  return first === undefined ? (
    <>
      <p className="pick-step">
        First day{known[0] !== undefined && <span className="second">, now {said(known[0])}</span>}
      </p>
      <DayPick label={`${label}, first day`} typed={typed} onPick={setFirst} />
    </>
  ) : (
    <>
      <p className="pick-step">
        From {said(first)} to the last day
        {known[1] !== undefined && <span className="second">, now {said(known[1])}</span>}
      </p>
      <DayPick
        key="last"
        label={`${label}, last day`}
        typed=""
        onPick={(last) => {
          onChange([first, last]);
          close();
        }}
      />
    </>
  );
}

function PeriodPick({ label, is, onChange, close, typed }: OperandProps) {
  const [text, setText] = useState(typed);
  const options = suggestPeriods(text)
    // Only what begins at a known day can be counted from.
    .filter((period) => is !== 'since' || ('offset' in period && !period.toDate))
    .map((period) => ({
      key: JSON.stringify(period),
      label: periodInWords(period),
      value: period,
    }));
  return (
    <PickList
      label={label}
      options={options}
      onType={setText}
      typed={typed}
      placeholder="this month, last 60 days, year to date"
      nothing="No period of that name. Try last 60 days."
      onPick={(period) => {
        onChange(period);
        close();
      }}
    />
  );
}

/** One number, or two between which it lies; money in major units of the reporting currency. */
export function NumberPick({
  label,
  isMoney,
  isBetween,
  value,
  onChange,
  close,
  typed,
}: {
  label: string;
  isMoney: boolean;
  isBetween: boolean;
  value: number | readonly number[] | undefined;
  onChange: (value: number | [number, number]) => void;
  close: () => void;
  typed: string;
}) {
  const { organisation } = useSession();
  const { currency } = organisation;
  const shown = (minor: number | undefined) =>
    minor === undefined ? null : isMoney ? toMajor(minor, currency) : minor;
  const [low, setLow] = useState<number | null>(
    /^\d$/.test(typed) ? Number(typed) : shown(typeof value === 'number' ? value : value?.[0]),
  );
  const [high, setHigh] = useState<number | null>(shown(typeof value === 'number' ? undefined : value?.[1]));
  const kept = (number: number) => (isMoney ? toMinor(number, currency) : number);
  const take = () => {
    if (low === null || (isBetween && high === null)) return;
    onChange(isBetween ? [kept(low), kept(high ?? low)] : kept(low));
    close();
  };
  const input = (which: 'low' | 'high') => (
    <InputNumber<number>
      autoFocus={which === 'low'}
      aria-label={which === 'low' ? label : `${label}, up to`}
      prefix={isMoney ? currency : undefined}
      value={which === 'low' ? low : high}
      onChange={which === 'low' ? setLow : setHigh}
      onPressEnter={take}
    />
  );
  return (
    <div className="pick-numbers">
      {input('low')}
      {isBetween && <span className="second">and</span>}
      {isBetween && input('high')}
      <Button type="primary" onClick={take}>
        Set
      </Button>
    </div>
  );
}

function TextPick({ label, value, onChange, close, typed }: OperandProps) {
  const [text, setText] = useState(typed || (typeof value === 'string' ? value : ''));
  const take = () => {
    onChange(text);
    close();
  };
  return (
    <div className="pick-numbers">
      <Input
        autoFocus
        aria-label={label}
        value={text}
        maxLength={500}
        onChange={(event) => setText(event.target.value)}
        onPressEnter={take}
      />
      <Button type="primary" onClick={take}>
        Set
      </Button>
    </div>
  );
}

/** The picker that fits what a field is compared with. */
export function OperandPicker(props: OperandProps) {
  const { label, field, is, value, onChange, close, typed } = props;
  if (is === 'in' || is === 'since') return <PeriodPick {...props} />;
  if (isDated(field.type)) {
    if (is === 'between') return <BetweenDays {...props} />;
    return (
      <DayPick
        label={label}
        typed={typed}
        onPick={(day) => {
          onChange(day);
          close();
        }}
      />
    );
  }
  if (field.type === 'yesNo') {
    return (
      <PickList
        label={label}
        typed={typed}
        options={[
          { key: 'yes', label: 'yes', value: true },
          { key: 'no', label: 'no', value: false },
        ]}
        onPick={(isYes) => {
          onChange(isYes);
          close();
        }}
      />
    );
  }
  if (isNumeric(field.type)) {
    return (
      <NumberPick
        label={label}
        isMoney={field.type === 'money'}
        isBetween={is === 'between'}
        value={value as number | readonly number[] | undefined}
        onChange={onChange}
        close={close}
        typed={typed}
      />
    );
  }
  if (isTextual(field.type)) return <TextPick {...props} />;
  if (field.type === 'link' && (isSubject(field.to) || field.to === 'file'))
    return <LinkedMembers {...props} to={field.to} />;
  return <Members {...props} />;
}

/** Whether a value still fits after the operator changed: `any of` to `none of` keeps it, `is in` to `before` does not. */
export function keepsOperand(field: Field, from: Operator, to: Operator): boolean {
  const shape = (is: Operator) => {
    if (is === 'isEmpty' || is === 'isNotEmpty') return 'nothing';
    if (is === 'between' || is === 'in' || is === 'since') return is;
    return isSetType(field.type) || is === 'anyOf' || is === 'noneOf' ? 'members' : 'one';
  };
  return shape(from) === shape(to);
}
