import { useQuery } from '@tanstack/react-query';
import {
  ask,
  countries,
  isSubject,
  maxLengthOf,
  objectType,
  toMajor,
  toMinor,
  type Field,
  type FieldValue,
  type ObjectKey,
} from '@zawn/core';
import { DatePicker, Input, InputNumber, Select, Switch } from 'antd';
import dayjs from 'dayjs';
import customParseFormat from 'dayjs/plugin/customParseFormat';
import { useState } from 'react';
import { fewRecords } from '../../platform/api/queries';
import { useSession } from '../../platform/sessions/session';
import { peopleToChoose } from '../../platform/sessions/people-to-choose';

dayjs.extend(customParseFormat);

export interface FieldInputProps {
  field: Field;
  value?: FieldValue;
  onChange?: (value: FieldValue) => void;
  /** The currency a money field is typed in. */
  currency?: string;
  /** The pipeline whose stages can be chosen. */
  pipeline?: number;
  /** The name of a linked record that is chosen already. */
  linkedName?: string;
  id?: string;
  autoFocus?: boolean;
  /** Called when the value was chosen rather than typed, so that it can be saved at once. */
  onPicked?: (value: FieldValue) => void;
}

const DATE_FORMATS = ['D MMM YYYY', 'YYYY-MM-DD', 'D.M.YYYY', 'D/M/YYYY'];
/** Letters typed before linked records are searched for. */
const FOUND = 20;

/** Chooses a record of an object by typing part of its name. */
function RecordPicker({
  to,
  linkedName,
  value,
  onChange,
  onPicked,
  id,
  autoFocus,
}: FieldInputProps & { to: ObjectKey }) {
  const [typed, setTyped] = useState('');
  const { nameField } = objectType(to);
  const question = ask(to, typed ? { field: nameField, is: 'contains', value: typed } : undefined);
  const { data, isFetching } = useQuery(fewRecords({ ...question, sort: [{ field: nameField }] }, FOUND));
  const options = (data?.rows ?? []).map((row) => ({ value: row.id, label: String(row[nameField]) }));
  if (value && linkedName && !options.some((option) => option.value === value)) {
    options.unshift({ value: Number(value), label: linkedName });
  }
  return (
    <Select
      id={id}
      autoFocus={autoFocus}
      defaultOpen={autoFocus}
      popupMatchSelectWidth={false}
      showSearch={{ filterOption: false, onSearch: setTyped }}
      allowClear
      loading={isFetching}
      value={value as number | undefined}
      options={options}
      notFoundContent={`No ${objectType(to).label.toLowerCase()} of that name`}
      placeholder="Type part of the name"
      onChange={(chosen) => {
        onChange?.(chosen ?? null);
        onPicked?.(chosen ?? null);
      }}
    />
  );
}

/** What can be chosen, and what was chosen before it was retired. */
const choicesFor = ({ choices = [] }: Field, value: FieldValue | undefined) =>
  choices.filter(
    ({ key, retired }) => !retired || key === value || (Array.isArray(value) && value.includes(key)),
  );

/** The input that fits a field's type. */
export function FieldInput(props: FieldInputProps) {
  const { field, value, onChange, onPicked, currency, pipeline, id, autoFocus } = props;
  const { people, stagesOf, pipelines, pipelinesOffered, organisation, rates } = useSession();
  const pick = (chosen: FieldValue | undefined) => {
    onChange?.(chosen ?? null);
    onPicked?.(chosen ?? null);
  };
  const select = (options: { value: string | number; label: string }[]) => (
    <Select
      id={id}
      autoFocus={autoFocus}
      defaultOpen={autoFocus}
      popupMatchSelectWidth={false}
      showSearch={{ optionFilterProp: 'label' }}
      allowClear={!field.required}
      value={(value ?? undefined) as string | number | undefined}
      options={options}
      onChange={pick}
    />
  );
  switch (field.type) {
    case 'choices':
    case 'tags':
      return (
        <Select
          id={id}
          autoFocus={autoFocus}
          className="wide"
          mode={field.type === 'tags' ? 'tags' : 'multiple'}
          showSearch={{ optionFilterProp: 'label' }}
          maxCount={50}
          value={(Array.isArray(value) ? value : []) as string[]}
          options={choicesFor(field, value).map(({ key, label }) => ({ value: key, label }))}
          onChange={(chosen: string[]) => onChange?.(chosen.length > 0 ? chosen : null)}
        />
      );
    case 'choice':
      return select(
        choicesFor(field, value)
          .filter(({ key }) => key !== 'converted')
          .map(({ key, label }) => ({ value: key, label })),
      );
    case 'country':
      return select(countries().map(({ code, name }) => ({ value: code, label: name })));
    case 'currency': {
      const known = [...new Set([organisation.currency, ...rates.map((rate) => rate.currency)])];
      return select(known.map((code) => ({ value: code, label: code })));
    }
    case 'link':
      if (field.to === 'person') return select(peopleToChoose(people, value));
      if (field.to === 'pipeline')
        return select(
          pipelines
            .filter((each) => pipelinesOffered.includes(each) || each.id === value)
            .map((each) => ({ value: each.id, label: each.name })),
        );
      if (field.to === 'stage') {
        return select(stagesOf(pipeline ?? 0).map((stage) => ({ value: stage.id, label: stage.name })));
      }
      return isSubject(field.to) ? <RecordPicker {...props} to={field.to} /> : null;
    case 'money': {
      const code = currency ?? organisation.currency;
      return (
        <InputNumber<number>
          id={id}
          autoFocus={autoFocus}
          className="wide"
          min={0}
          prefix={code}
          value={value === null || value === undefined ? null : toMajor(Number(value), code)}
          onChange={(major) => onChange?.(major === null ? null : toMinor(major, code))}
        />
      );
    }
    case 'number':
    case 'percent':
      return (
        <InputNumber<number>
          id={id}
          autoFocus={autoFocus}
          className="wide"
          min={field.min}
          max={field.max}
          value={value as number | null}
          onChange={(typed) => onChange?.(typed)}
        />
      );
    case 'date':
      return (
        <DatePicker
          id={id}
          autoFocus={autoFocus}
          className="wide"
          format={DATE_FORMATS}
          value={value ? dayjs(String(value)) : null}
          allowClear={!field.required}
          onChange={(chosen) => pick(chosen ? chosen.format('YYYY-MM-DD') : null)}
        />
      );
    case 'yesNo':
      return <Switch id={id} checked={value === true} onChange={pick} />;
    case 'longText':
      return (
        <Input.TextArea
          id={id}
          autoFocus={autoFocus}
          autoSize={{ minRows: 3, maxRows: 10 }}
          maxLength={maxLengthOf(field)}
          value={String(value ?? '')}
          onChange={(event) => onChange?.(event.target.value)}
        />
      );
    default:
      return (
        <Input
          id={id}
          autoFocus={autoFocus}
          maxLength={maxLengthOf(field)}
          value={String(value ?? '')}
          onChange={(event) => onChange?.(event.target.value)}
        />
      );
  }
}
