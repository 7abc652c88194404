import { dayOff, readWhen, type When } from '@zawn/core';
import { Input } from 'antd';
import { shortDate } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import { useFirstWhen } from './first-when';
import './activities.css';

interface Props {
  value: string;
  onChange: (words: string) => void;
  id?: string;
  autoFocus?: boolean;
}

/** The day and time that words mean today; undefined when they mean none. */
export function useWhen(words: string): When | undefined {
  const { today, calendar } = useSession();
  return readWhen(words, today, calendar);
}

export const whenInWords = ({ dueOn, dueAt }: When) =>
  dueAt ? `${shortDate(dueOn)}, ${dueAt}` : shortDate(dueOn);

/** When something is due, in words; what they mean is said at once. */
export function WhenInput({ value, onChange, id, autoFocus }: Props) {
  const { calendar } = useSession();
  const when = useWhen(value);
  const off = when && dayOff(calendar, when.dueOn);
  const suggested = [useFirstWhen(), 'In 3 working days', 'Next week'];
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
            {off !== undefined && (
              <span className="attention">, {off === '' ? 'not a working day' : off}</span>
            )}
          </span>
        }
      />
      <span className="when-suggested">
        {suggested.map((words) => (
          <button key={words} type="button" className="chip" onClick={() => onChange(words)}>
            {words}
          </button>
        ))}
      </span>
    </div>
  );
}
