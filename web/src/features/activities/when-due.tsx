import { type FieldValue } from '@zawn/core';
import { Form } from 'antd';
import { useEffect, useState } from 'react';
import { useTaskDefaults } from './task-defaults';
import { useWhen, WhenInput } from './when-input';

/** Asks in words when a new task is due. */
export default function WhenDue({
  onChange,
}: {
  onChange: (values: Record<string, FieldValue> | undefined) => void;
}) {
  const [words, setWords] = useState(useTaskDefaults().when);
  const when = useWhen(words);
  const { dueOn, dueAt } = when ?? {};
  useEffect(() => {
    onChange(dueOn === undefined ? undefined : { dueOn, dueAt: dueAt ?? null });
  }, [onChange, dueOn, dueAt]);
  return (
    <Form.Item label="When">
      <WhenInput value={words} onChange={setWords} />
    </Form.Item>
  );
}
