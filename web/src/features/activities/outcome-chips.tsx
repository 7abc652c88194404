import { outcomesOf } from '@zawn/core';
import { useShortcuts } from '../../platform/frame/shortcuts';
import { useSession } from '../../platform/sessions/session';

interface Props {
  /** The type of the activity that ended. */
  kind: string;
  value: string | null;
  onChange: (outcome: string | null) => void;
  /** Takes the focus, so that the digits work at once. */
  autoFocus?: boolean;
}

/** How an activity ended, from the fixed list of its type; the digits choose. */
export function OutcomeChips({ kind, value, onChange, autoFocus }: Props) {
  const { catalogue } = useSession();
  const outcomes = outcomesOf(catalogue, kind);
  const toggle = (key: string) => onChange(value === key ? null : key);
  useShortcuts(
    'Outcome',
    // There are nine digits to choose with.
    outcomes.slice(0, 9).map(({ key, label }, index) => ({
      keys: String(index + 1),
      does: label,
      run: () => toggle(key),
    })),
  );
  if (outcomes.length === 0) return null;
  return (
    <div className="chips" role="group" aria-label="Outcome">
      {outcomes.map(({ key, label }, index) => (
        <button
          key={key}
          type="button"
          className="chip"
          autoFocus={autoFocus && index === 0}
          aria-pressed={value === key}
          onClick={() => toggle(key)}
        >
          {index < 9 && <kbd>{index + 1}</kbd>} {label}
        </button>
      ))}
    </div>
  );
}
