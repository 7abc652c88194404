import { Checkbox, Input, type InputRef } from 'antd';
import { useEffect, useRef } from 'react';
import { type Step } from './task-details';

interface Props {
  steps: readonly Step[];
  onChange: (steps: Step[]) => void;
  /** Steps can be ticked off: there is something to be done already. */
  canTick?: boolean;
}

/** The steps of a checklist: Enter begins the next one, Backspace in an empty one takes it out. */
export function StepsInput({ steps, onChange, canTick }: Props) {
  const fields = useRef<(InputRef | null)[]>([]);
  const goTo = useRef<number>(undefined);
  // One more, empty, to write the next into.
  const shown = [...steps, { name: '', done: false }];
  useEffect(() => {
    if (goTo.current === undefined) return;
    fields.current[goTo.current]?.focus();
    goTo.current = undefined;
  });
  const put = (at: number, step: Step) =>
    onChange(
      shown
        .map((each, index) => (index === at ? step : each))
        .filter(({ name }, index) => name !== '' || index < steps.length),
    );
  return (
    <ol className="steps" aria-label="Steps">
      {shown.map((step, at) => (
        <li key={at}>
          {canTick ? (
            <Checkbox
              checked={step.done}
              disabled={step.name === '' || undefined}
              onChange={({ target }) => put(at, { ...step, done: target.checked })}
              aria-label={`Done: ${step.name || 'the next step'}`}
            />
          ) : (
            <span className="second">{at + 1}</span>
          )}
          <Input
            ref={(field) => {
              fields.current[at] = field;
            }}
            size="small"
            variant="borderless"
            value={step.name}
            maxLength={200}
            placeholder={at === 0 ? 'First step' : 'Next step'}
            aria-label={`Step ${at + 1}`}
            onChange={({ target }) => put(at, { ...step, name: target.value })}
            onKeyDown={(event) => {
              if (event.key === 'Enter' && !event.ctrlKey && !event.metaKey) {
                event.preventDefault();
                goTo.current = at + 1;
                onChange([...steps]);
              }
              if (event.key === 'Backspace' && step.name === '' && at > 0) {
                event.preventDefault();
                goTo.current = at - 1;
                onChange(steps.filter((_, index) => index !== at));
              }
            }}
          />
        </li>
      ))}
    </ol>
  );
}
