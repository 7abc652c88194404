import { type Choice } from '@zawn/core';

interface Props {
  reasons: readonly Choice[];
  value?: string;
  onChange?: (reason: string) => void;
  id?: string;
}

/** The reasons of a list, as chips: one click and no typing. */
export function ReasonChips({ reasons, value, onChange, id }: Props) {
  return (
    <div className="chips" role="radiogroup" aria-label="Reason" id={id}>
      {reasons.map(({ key, label }) => (
        <button
          key={key}
          type="button"
          className="chip"
          role="radio"
          aria-checked={value === key}
          aria-pressed={value === key}
          onClick={() => onChange?.(key)}
        >
          {label}
        </button>
      ))}
    </div>
  );
}
