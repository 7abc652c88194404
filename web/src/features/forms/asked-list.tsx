import { type Field, type FormField } from '@zawn/core';
import { Button, Checkbox, Input, Select } from 'antd';
import { X } from 'lucide-react';
import { moved, MoveButtons } from '../../platform/frame/move-buttons';

interface Props {
  asked: readonly FormField[];
  askable: readonly (readonly [string, Field])[];
  onChange: (asked: FormField[]) => void;
}

/** A lead is called by its name. */
const ALWAYS = 'name';

/** The fields of a form in their order, each with its own words; more are added below. */
export function AskedList({ asked, askable, onChange }: Props) {
  const labels = new Map(askable.map(([key, { label }]) => [key, label]));
  const change = (at: number, { label, help, required, ...rest }: Partial<FormField>) => {
    const next = { ...asked[at], ...rest, label, help, required };
    const kept = Object.entries(next).filter(([, value]) => value !== undefined && value !== '');
    onChange(
      asked.map((each, index) => (index === at ? (Object.fromEntries(kept) as unknown as FormField) : each)),
    );
  };
  const others = askable.filter(([key]) => !asked.some((each) => each.key === key));
  return (
    <>
      <ol className="asked" aria-label="Fields of the form">
        {asked.map((each, at) => {
          const own = labels.get(each.key) ?? each.key;
          return (
            <li key={each.key}>
              <div className="asked-head">
                <Input
                  value={each.label ?? ''}
                  placeholder={own}
                  onChange={({ target }) => change(at, { ...each, label: target.value })}
                  aria-label={`Words for ${own}`}
                />
                <Checkbox
                  checked={each.required ?? false}
                  disabled={each.key === ALWAYS}
                  onChange={({ target }) =>
                    change(at, { ...each, required: target.checked ? true : undefined })
                  }
                >
                  needed
                </Checkbox>
                <MoveButtons
                  name={own}
                  at={at}
                  count={asked.length}
                  move={(step) => onChange(moved(asked, at, step))}
                />
                <button
                  type="button"
                  className="icon-button"
                  disabled={each.key === ALWAYS}
                  onClick={() => onChange(asked.filter((_, index) => index !== at))}
                  aria-label={`Take out ${own}`}
                >
                  <X size={13} aria-hidden />
                </button>
              </div>
              <Input
                className="asked-help"
                size="small"
                variant="borderless"
                value={each.help ?? ''}
                placeholder={`${own}: add a word of help`}
                onChange={({ target }) => change(at, { ...each, help: target.value })}
                aria-label={`Help for ${own}`}
              />
            </li>
          );
        })}
      </ol>
      {others.length > 0 && (
        <Select
          className="asked-more"
          value={null}
          placeholder="Ask for more"
          options={others.map(([key, { label }]) => ({ value: key, label }))}
          showSearch={{ optionFilterProp: 'label' }}
          onChange={(key: string | null) => key && onChange([...asked, { key }])}
          aria-label="Ask for more"
        />
      )}
      {others.length === 0 && <Button disabled>Everything is asked for</Button>}
    </>
  );
}
