import { useQuery } from '@tanstack/react-query';
import { isSubject, objectType, type Hit, type SubjectKey } from '@zawn/core';
import { Select } from 'antd';
import { useState } from 'react';
import { call } from '../../platform/api/client';
import { RECORDS } from '../../platform/api/queries';
import { useSettled } from '../../platform/frame/use-settled';

/** A record that activities and notes hang on, by its name. */
export interface Subject {
  object: SubjectKey;
  id: number;
  name: string;
}

interface Props {
  value: readonly Subject[];
  onChange: (value: Subject[]) => void;
  label: string;
  placeholder: string;
  /** Only records of these objects. */
  objects?: readonly SubjectKey[];
}

const keyOf = ({ object, id }: Pick<Subject, 'object' | 'id'>) => `${object}-${id}`;

/** Chooses several records of any object by typing part of their names. */
export function SubjectsInput({ value, onChange, label, placeholder, objects }: Props) {
  const [typed, setTyped] = useState('');
  const asked = useSettled(typed.trim(), 150);
  const { data, isFetching } = useQuery({
    queryKey: [RECORDS, 'search', asked],
    queryFn: ({ signal }) =>
      call<{ hits: Hit[] }>('GET', `/search?q=${encodeURIComponent(asked)}`, { signal }),
    enabled: asked.length > 1,
  });
  const found = (data?.hits ?? []).flatMap(({ object, id, name, in: within }): Subject[] =>
    isSubject(object) && !within && (objects?.includes(object) ?? true) ? [{ object, id, name }] : [],
  );
  const known = new Map([...value, ...found].map((each) => [keyOf(each), each]));
  return (
    <Select<string[]>
      mode="multiple"
      className="wide"
      value={value.map(keyOf)}
      options={[...known].map(([key, { object, name }]) => ({
        value: key,
        label: `${name}, ${objectType(object).label.toLowerCase()}`,
      }))}
      showSearch={{ filterOption: false, onSearch: setTyped }}
      loading={isFetching}
      notFoundContent={asked.length > 1 && !isFetching ? 'Nothing of that name' : null}
      placeholder={placeholder}
      aria-label={label}
      onChange={(keys) => {
        onChange(keys.flatMap((key) => known.get(key) ?? []));
        setTyped('');
      }}
    />
  );
}
