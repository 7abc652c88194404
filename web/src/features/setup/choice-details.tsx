import {
  activityParts,
  kindsWithoutTouch,
  outcomeCountNames,
  outcomeCounts,
  type Choice,
  type ChoiceDetail,
  type OutcomeCount,
} from '@zawn/core';
import { Input, InputNumber, Select } from 'antd';
import { useKinds } from '../activities/kinds';

/** What of a choice is changed. */
export type ChoicePart = { [K in keyof Choice]?: Choice[K] | undefined };

interface Props {
  choice: Choice;
  details: readonly ChoiceDetail[];
  change: (part: ChoicePart) => void;
}

const touches = [
  { value: 'none', label: 'is no touch' },
  { value: 'out', label: 'is a touch of ours' },
  { value: 'in', label: 'is a touch of theirs' },
];
const parts = [
  { value: '', label: 'no place' },
  { value: 'place', label: 'a place' },
  { value: 'attendees', label: 'attendees' },
  { value: 'place,attendees', label: 'place, attendees' },
];
/** Nothing chosen is nothing said. */
const orNone = <T,>(values: readonly T[]): readonly T[] | undefined =>
  values.length > 0 ? values : undefined;

/** Whether doing such a thing is a touch, and which types end with such an outcome: beside the label. */
export function ChoiceUse({ choice, details, change }: Props) {
  const kinds = useKinds();
  const { label, touch, types } = choice;
  return (
    <>
      {details.includes('touch') && (
        <Select
          value={touch ?? 'none'}
          options={touches}
          onChange={(value: string) =>
            change({ touch: value === 'none' ? undefined : (value as 'out' | 'in') })
          }
          aria-label={`Whether ${label} is a touch`}
        />
      )}
      {details.includes('has') && (
        <Select
          value={(choice.has ?? []).join()}
          options={parts}
          onChange={(value) =>
            change({ has: orNone(activityParts.filter((part) => value.split(',').includes(part))) })
          }
          aria-label={`What else ${label} has`}
        />
      )}
      {details.includes('types') && (
        <Select<string[]>
          mode="multiple"
          maxTagCount={1}
          value={[...(types ?? [])]}
          options={kinds.filter(({ value }) => !kindsWithoutTouch.includes(value))}
          placeholder="of any type"
          onChange={(value) => change({ types: orNone(value) })}
          aria-label={`Types that end with ${label}`}
        />
      )}
    </>
  );
}

/** What an outcome counts as, and the next step it proposes: in a line below it. */
export function OutcomeMeaning({ choice, details, change }: Props) {
  const { label, counts = [], next } = choice;
  if (!details.includes('counts') || choice.retired) return null;
  const toggle = (count: OutcomeCount) =>
    change({ counts: orNone(outcomeCounts.filter((each) => counts.includes(each) !== (each === count))) });
  return (
    <div className="choice-more">
      <span className="chips" role="group" aria-label={`What ${label} counts as`}>
        {outcomeCounts.map((count) => (
          <button
            key={count}
            type="button"
            className="chip"
            aria-pressed={counts.includes(count)}
            onClick={() => toggle(count)}
          >
            {outcomeCountNames[count]}
          </button>
        ))}
      </span>
      <Input
        size="small"
        value={next?.name ?? ''}
        placeholder="proposes no next step"
        maxLength={200}
        onChange={({ target }) =>
          change({ next: target.value ? { name: target.value, days: next?.days ?? 1 } : undefined })
        }
        aria-label={`Next step that ${label} proposes`}
      />
      {next && (
        <InputNumber<number>
          size="small"
          value={next.days}
          min={0}
          max={365}
          suffix={next.days === 1 ? 'day later' : 'days later'}
          onChange={(days) => change({ next: { ...next, days: days ?? 0 } })}
          aria-label={`Days until the next step after ${label}`}
        />
      )}
    </div>
  );
}
