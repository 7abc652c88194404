import { fieldOf, offered } from '@zawn/core';
import { useShortcuts } from '../../platform/frame/shortcuts';
import { useSession } from '../../platform/sessions/session';

interface Props {
  value: string | null;
  onChange: (outcome: string | null) => void;
  /** Takes the focus, so that the digits work at once. */
  autoFocus?: boolean;
}

/** How a call or meeting ended, from the fixed list; the digits choose. */
export function OutcomeChips({ value, onChange, autoFocus }: Props) {
  const { catalogue } = useSession();
  const outcomes = offered(fieldOf(catalogue, 'activity', 'outcome')?.choices);
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
