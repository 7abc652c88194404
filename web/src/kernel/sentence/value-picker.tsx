import {
  comparesAmounts,
  comparesFields,
  isAmountOperand,
  isComparable,
  isFieldOperand,
  toMajor,
  toMinor,
  type AmountOperand,
  type ObjectKey,
} from '@zawn/core';
import { Button, InputNumber, Select } from 'antd';
import { useState } from 'react';
import { useSession } from '../../platform/sessions/session';
import { fieldOptions } from './field-options';
import { OperandPicker, type OperandProps } from './operand-picker';
import { PickList } from './pick-list';

/** An amount with its currency: only what is in that currency is compared with it. */
function AmountPick({
  label,
  value,
  onChange,
  close,
}: Omit<OperandProps, 'value'> & { value?: AmountOperand }) {
  const { organisation, rates } = useSession();
  const known = [...new Set([organisation.currency, ...rates.map((rate) => rate.currency)])];
  const [currency, setCurrency] = useState(value?.currency ?? known[0]);
  const [amount, setAmount] = useState<number | null>(value ? toMajor(value.amount, value.currency) : null);
  const take = () => {
    if (amount === null) return;
    onChange({ amount: toMinor(amount, currency), currency });
    close();
  };
  return (
    <div className="pick-numbers">
      <Select
        aria-label="Currency"
        value={currency}
        onChange={setCurrency}
        options={known.map((code) => ({ value: code, label: code }))}
        getPopupContainer={(trigger: HTMLElement) => trigger.parentElement ?? document.body}
      />
      <InputNumber<number>
        autoFocus
        aria-label={label}
        value={amount}
        onChange={setAmount}
        onPressEnter={take}
      />
      <Button type="primary" onClick={take}>
        Set
      </Button>
    </div>
  );
}

/** What a field is compared with: a value, or where that can be another field, or an amount in a currency of its own. */
export function ValuePicker(props: OperandProps & { object: ObjectKey; path: string }) {
  const { object, path, field, is, value, onChange, close, typed, label } = props;
  const { catalogue } = useSession();
  const [way, setWay] = useState<'value' | 'field' | 'amount'>(
    isFieldOperand(value) ? 'field' : isAmountOperand(value) ? 'amount' : 'value',
  );
  const others = comparesFields(is, field.type)
    ? fieldOptions(catalogue, object, (other, at) => at !== path && isComparable(field, other))
    : [];
  const ways = [
    { key: 'value' as const, label: 'A value', isOffered: true },
    { key: 'field' as const, label: 'Another field', isOffered: others.length > 0 },
    { key: 'amount' as const, label: 'In a currency', isOffered: comparesAmounts(is, field.type) },
  ].filter(({ isOffered }) => isOffered);
  return (
    <>
      {way === 'field' ? (
        <PickList
          key="field"
          label={`${label}, another field`}
          options={others}
          typed=""
          onPick={(other) => {
            onChange({ field: other });
            close();
          }}
        />
      ) : way === 'amount' ? (
        <AmountPick {...props} value={isAmountOperand(value) ? value : undefined} />
      ) : (
        <OperandPicker
          {...props}
          value={isFieldOperand(value) || isAmountOperand(value) ? undefined : value}
          typed={typed}
        />
      )}
      {ways.length > 1 && (
        <div className="pick-ways" role="group" aria-label="Compared with">
          {ways.map((each) => (
            <button
              key={each.key}
              type="button"
              className="link-button"
              aria-pressed={way === each.key}
              onClick={() => setWay(each.key)}
            >
              {each.label}
            </button>
          ))}
        </div>
      )}
    </>
  );
}
