import { readWhen, type When } from '@zawn/core';
import { Input } from 'antd';
import { shortDate } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import './activities.css';

const SUGGESTED = ['Tomorrow', 'In 3 days', 'Next week'];

interface Props {
  value: string;
  onChange: (words: string) => void;
  id?: string;
  autoFocus?: boolean;
}

/** The day and time that words mean today; undefined when they mean none. */
export function useWhen(words: string): When | undefined {
  const { today } = useSession();
  return readWhen(words, today);
}

export const whenInWords = ({ dueOn, dueAt }: When) =>
  dueAt ? `${shortDate(dueOn)}, ${dueAt}` : shortDate(dueOn);

/** When something is due, in words; what they mean is said at once. */
export function WhenInput({ value, onChange, id, autoFocus }: Props) {
  const when = useWhen(value);
  const isWrong = value.trim() !== '' && !when;
  return (
    <div className="when">
      <Input
        id={id}
        autoFocus={autoFocus}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        placeholder="Thu 10:00, in 3 days, 12 Dec"
        aria-label="When"
        status={isWrong ? 'error' : ''}
        suffix={
          <span className={isWrong ? 'attention late' : 'second'}>
            {when ? whenInWords(when) : isWrong ? 'no date' : ''}
          </span>
        }
      />
      <span className="when-suggested">
        {SUGGESTED.map((words) => (
          <button key={words} type="button" className="chip" onClick={() => onChange(words)}>
            {words}
          </button>
        ))}
      </span>
    </div>
  );
}
