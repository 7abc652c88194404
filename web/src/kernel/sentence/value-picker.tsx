import {
  comparesAmounts,
  comparesFields,
  isAmountOperand,
  isComparable,
  comparesGroups,
  groupOperandInWords,
  isFieldOperand,
  isGroupOperand,
  isOwnField,
  toMajor,
  toMinor,
  type AmountOperand,
  type Catalogue,
  type GroupOperand,
  type ObjectKey,
  type Operand,
} from '@zawn/core';
import { Button, InputNumber, Select } from 'antd';
import { useState } from 'react';
import { useSession } from '../../platform/sessions/session';
import { fieldOptions } from './field-options';
import { OperandPicker, type OperandProps } from './operand-picker';
import { type Option } from './options';
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

type Way = 'value' | 'field' | 'group' | 'amount';

const wayOf = (value: Operand | undefined): Way => {
  if (isFieldOperand(value)) return 'field';
  if (isGroupOperand(value)) return 'group';
  return isAmountOperand(value) ? 'amount' : 'value';
};

/** The figures that a field can be compared with: of all records, and of those with the same owner, stage and so on. */
function groupOperands(catalogue: Catalogue, object: ObjectKey): Option<GroupOperand>[] {
  const bys = fieldOptions(
    catalogue,
    object,
    ({ type }, path) => ['link', 'choice', 'country', 'currency'].includes(type) && isOwnField(path),
  );
  const all = [undefined, ...bys.map(({ value }) => value)];
  return all.flatMap((by) =>
    (['average', 'median', 'least', 'most'] as const).map((figure) => {
      const value: GroupOperand = by === undefined ? { figure } : { figure, by };
      return { key: JSON.stringify(value), label: groupOperandInWords(catalogue, object, value), value };
    }),
  );
}

/** What a field is compared with: a value, or where that can be another field, or an amount in a currency of its own. */
export function ValuePicker(props: OperandProps & { object: ObjectKey; path: string }) {
  const { object, path, field, is, value, onChange, close, typed, label } = props;
  const { catalogue } = useSession();
  const [way, setWay] = useState(wayOf(value));
  const others = comparesFields(is, field.type)
    ? fieldOptions(catalogue, object, (other, at) => at !== path && isComparable(field, other))
    : [];
  const ways = [
    { key: 'value' as const, label: 'A value', isOffered: true },
    { key: 'field' as const, label: 'Another field', isOffered: others.length > 0 },
    { key: 'group' as const, label: 'A figure of all', isOffered: comparesGroups(is, field.type) },
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
      ) : way === 'group' ? (
        <PickList
          key="group"
          label={`${label}, a figure of all`}
          options={groupOperands(catalogue, object)}
          typed=""
          onPick={(figure) => {
            onChange(figure);
            close();
          }}
        />
      ) : way === 'amount' ? (
        <AmountPick {...props} value={isAmountOperand(value) ? value : undefined} />
      ) : (
        <OperandPicker {...props} value={wayOf(value) === 'value' ? value : undefined} typed={typed} />
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
