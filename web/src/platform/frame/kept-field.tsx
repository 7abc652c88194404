import { toMajor, toMinor } from '@zawn/core';
import { Input, InputNumber, type InputNumberProps, type InputProps } from 'antd';
import { useState, type FocusEvent, type KeyboardEvent } from 'react';

const leave = ({ currentTarget }: KeyboardEvent<HTMLInputElement>) => currentTarget.blur();

interface KeptTextProps extends Omit<InputProps, 'value' | 'defaultValue' | 'onBlur' | 'onPressEnter'> {
  value: string | null;
  /** Takes what was written, trimmed and other than before; null when it was emptied. */
  keep: (text: string | null) => void;
}

/**
 * A text that is kept when the field is left, or at Enter. What is kept by somebody else meanwhile takes its place.
 */
export function KeptText({ value, keep, ...rest }: KeptTextProps) {
  const blur = ({ target }: FocusEvent<HTMLInputElement>) => {
    const text = target.value.trim();
    if (text !== (value ?? '')) keep(text === '' ? null : text);
  };
  return <Input {...rest} key={value} defaultValue={value ?? ''} onPressEnter={leave} onBlur={blur} />;
}

interface KeptNameProps extends Omit<KeptTextProps, 'keep'> {
  keep: (name: string) => void;
}

/** A name that is kept when the field is left, or at Enter: emptied, it is again what it was. */
export function KeptName({ keep, ...rest }: KeptNameProps) {
  const [emptied, setEmptied] = useState(0);
  return (
    <KeptText
      {...rest}
      key={emptied}
      keep={(name) => (name === null ? setEmptied(emptied + 1) : keep(name))}
    />
  );
}

interface KeptNumberProps extends Omit<
  InputNumberProps<number>,
  'value' | 'defaultValue' | 'onBlur' | 'onPressEnter' | 'min' | 'max'
> {
  value: number | null;
  min: number;
  max: number;
  /** Takes what was written, within its bounds and other than before; null when it was emptied. */
  keep: (value: number | null) => void;
}

interface KeptMoneyProps extends Omit<
  InputNumberProps<number>,
  'value' | 'defaultValue' | 'onBlur' | 'onPressEnter' | 'min' | 'max'
> {
  /** Minor units. */
  value: number;
  currency: string;
  /** Takes another amount, in minor units; emptied, it is again what it was. */
  keep: (amount: number) => void;
}

/** An amount that is kept when the field is left, or at Enter. */
export function KeptMoney({ value, currency, keep, ...rest }: KeptMoneyProps) {
  const [emptied, setEmptied] = useState(0);
  const [typed, setTyped] = useState<number | null>();
  const blur = () => {
    if (typed === null) setEmptied(emptied + 1);
    else if (typed !== undefined && toMinor(typed, currency) !== value) keep(toMinor(typed, currency));
    setTyped(undefined);
  };
  return (
    <InputNumber<number>
      controls={false}
      {...rest}
      key={`${value} ${currency} ${emptied}`}
      min={0}
      defaultValue={toMajor(value, currency)}
      onChange={setTyped}
      onPressEnter={leave}
      onBlur={blur}
    />
  );
}

/** A whole number that is kept when the field is left, or at Enter. */
export function KeptNumber({ value, min, max, keep, ...rest }: KeptNumberProps) {
  const blur = ({ target }: FocusEvent<HTMLInputElement>) => {
    const text = target.value.trim();
    const typed = Number(text);
    if (Number.isNaN(typed)) return;
    // What lies beyond its bounds is shown as the bound, and kept as that.
    const next = text === '' ? null : Math.min(max, Math.max(min, Math.round(typed)));
    if (next !== value) keep(next);
  };
  return (
    <InputNumber<number>
      precision={0}
      controls={false}
      {...rest}
      key={value}
      min={min}
      max={max}
      defaultValue={value ?? undefined}
      onPressEnter={leave}
      onBlur={blur}
    />
  );
}
