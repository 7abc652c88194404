import { Check } from 'lucide-react';
import { matching, MOST_OPTIONS, type Option } from './options';
import { useEffect, useId, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';

interface Props<T> {
  label: string;
  options: readonly Option<T>[];
  onPick: (value: T) => void;
  /** Keys of what is chosen: the list then takes several, and stays open. */
  chosen?: ReadonlySet<string>;
  /** Called with what is typed, when the options are looked for elsewhere. */
  onType?: (text: string) => void;
  /** The text it begins with: the letter that opened it. */
  typed?: string;
  placeholder?: string;
  /** What is said when nothing matches. */
  nothing?: ReactNode;
  onDone?: () => void;
}

/** A field and the list under it: typing narrows, arrows move, Enter picks. One or several can be picked. */
export function PickList<T>(props: Props<T>) {
  const { label, options, onPick, chosen, onType, typed = '', placeholder, nothing, onDone } = props;
  const [text, setText] = useState(typed);
  const [active, setActive] = useState(0);
  const id = useId();
  const list = useRef<HTMLUListElement>(null);
  // What is looked for elsewhere comes narrowed already.
  const shown = onType ? options.slice(0, MOST_OPTIONS) : matching(options, text);
  const at = Math.min(active, shown.length - 1);
  useEffect(() => {
    list.current?.querySelector('[data-active]')?.scrollIntoView({ block: 'nearest' });
  }, [at]);
  useEffect(() => {
    if (typed) onType?.(typed);
    // Only what it was opened with; what is typed later is told as it is typed.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);

  const press = (event: KeyboardEvent) => {
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault();
      const step = event.key === 'ArrowDown' ? 1 : -1;
      setActive(Math.min(Math.max(at + step, 0), shown.length - 1));
    } else if (event.key === 'Enter') {
      event.preventDefault();
      event.stopPropagation();
      if (event.ctrlKey || event.metaKey) onDone?.();
      else if (shown[at]) {
        onPick(shown[at].value);
        if (chosen && text) {
          setText('');
          onType?.('');
        }
      }
    } else if (event.key === 'Tab' && chosen) {
      onDone?.();
    }
  };
  return (
    <div className="pick">
      <input
        // The list opens where the person is about to type.
        autoFocus
        className="pick-field"
        role="combobox"
        aria-label={label}
        aria-expanded
        aria-controls={id}
        aria-activedescendant={shown[at] ? `${id}-${at}` : undefined}
        value={text}
        placeholder={placeholder ?? 'Type to narrow'}
        onChange={(event) => {
          setText(event.target.value);
          setActive(0);
          onType?.(event.target.value);
        }}
        onKeyDown={press}
      />
      <ul
        ref={list}
        id={id}
        className="pick-list"
        role="listbox"
        aria-label={label}
        aria-multiselectable={chosen !== undefined}
      >
        {shown.map((option, index) => (
          <li key={option.key} className="pick-item" role="presentation">
            {option.group !== undefined && option.group !== shown[index - 1]?.group && (
              <span className="pick-group">{option.group}</span>
            )}
            <span
              id={`${id}-${index}`}
              role="option"
              aria-selected={chosen ? chosen.has(option.key) : index === at}
              data-active={index === at || undefined}
              className="pick-option"
              onMouseMove={() => setActive(index)}
              onMouseDown={(event) => event.preventDefault()}
              onClick={() => onPick(option.value)}
            >
              {chosen && (
                <span className="pick-mark">{chosen.has(option.key) && <Check size={13} aria-hidden />}</span>
              )}
              <span className="pick-label">{option.label}</span>
              {option.hint && <span className="second">{option.hint}</span>}
            </span>
          </li>
        ))}
      </ul>
      {shown.length === 0 && <p className="pick-nothing second">{nothing ?? 'Nothing of that name'}</p>}
      {chosen && (
        <p className="pick-foot second">
          <kbd>Enter</kbd> picks, <kbd>Tab</kbd> when done
        </p>
      )}
    </div>
  );
}
