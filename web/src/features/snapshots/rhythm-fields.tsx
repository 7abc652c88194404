import { rhythmFault, rhythmInWords, type Rhythm } from '@zawn/core';
import { Input, Select } from 'antd';

interface Props {
  rhythm: Rhythm;
  onChange: (rhythm: Rhythm) => void;
}

const weekdays = [
  ['mon', 'Monday'],
  ['tue', 'Tuesday'],
  ['wed', 'Wednesday'],
  ['thu', 'Thursday'],
  ['fri', 'Friday'],
  ['sat', 'Saturday'],
  ['sun', 'Sunday'],
] as const;

/** The day of a rhythm as one choice: `week mon`, `month 31`, `month last`. */
const dayOf = ({ every, weekday, day, working }: Rhythm): string =>
  every === 'week' ? `week ${weekday ?? 'mon'}` : `month ${working ?? day ?? 1}`;

function withDay(rhythm: Rhythm, chosen: string): Rhythm {
  const [every, which] = chosen.split(' ');
  if (every === 'week')
    return { ...rhythm, every: 'week', weekday: which as Rhythm['weekday'], day: null, working: null };
  const isWorking = which === 'first' || which === 'last';
  return {
    ...rhythm,
    every: 'month',
    weekday: null,
    day: isWorking ? null : Number(which),
    working: isWorking ? which : null,
  };
}

const options = [
  {
    label: 'Each week',
    options: weekdays.map(([key, name]) => ({ value: `week ${key}`, label: `Every ${name}` })),
  },
  {
    label: 'Each month',
    options: [
      { value: 'month last', label: 'On the last working day' },
      { value: 'month first', label: 'On the first working day' },
      ...Array.from({ length: 31 }, (_, index) => ({
        value: `month ${index + 1}`,
        label: `On day ${index + 1}`,
      })),
    ],
  },
];

/** On which day and at what time something is done again and again. */
export function RhythmFields({ rhythm, onChange }: Props) {
  const isByNumber = rhythm.every === 'week' || !rhythm.working;
  return (
    <div className="rhythm-fields">
      <Select
        aria-label="On which day"
        value={dayOf(rhythm)}
        showSearch={{ optionFilterProp: 'label' }}
        onChange={(chosen: string) => onChange(withDay(rhythm, chosen))}
        options={options}
      />
      <Input
        type="time"
        aria-label="At what time"
        required
        value={rhythm.at}
        onChange={(event) => event.target.value && onChange({ ...rhythm, at: event.target.value })}
      />
      {isByNumber && (
        <Select
          aria-label="Where nobody works"
          value={rhythm.offDay ?? 'anyway'}
          onChange={(offDay: NonNullable<Rhythm['offDay']>) => onChange({ ...rhythm, offDay })}
          options={[
            { value: 'anyway', label: 'On holidays and days off all the same' },
            { value: 'before', label: 'Else on the working day before' },
            { value: 'after', label: 'Else on the working day after' },
          ]}
        />
      )}
      {!rhythmFault(rhythm) && <p className="second">{rhythmInWords(rhythm)}.</p>}
    </div>
  );
}
