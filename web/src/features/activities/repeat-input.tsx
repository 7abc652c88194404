import { faultOfRepeat, readRepeat, repeatInWords } from '@zawn/core/repeats';
import { Input } from 'antd';

interface Props {
  words: string;
  /** The day from which it is counted. */
  from: string;
  /** The words as typed, and whether they say something that can be kept. */
  onChange: (words: string, isUnderstood: boolean) => void;
}

/** How something is repeated, in words; what they mean is said at once. */
export default function RepeatInput({ words, from, onChange }: Props) {
  const read = (text: string) => {
    const rule = readRepeat(text);
    return rule === undefined || faultOfRepeat(rule, from) ? undefined : rule;
  };
  const rule = read(words);
  const isWrong = words.trim() !== '' && rule === undefined;
  return (
    <Input
      value={words}
      onChange={({ target }) =>
        onChange(target.value, target.value.trim() === '' || read(target.value) !== undefined)
      }
      placeholder="Repeats: every Monday"
      aria-label="Repeats"
      maxLength={200}
      status={isWrong ? 'error' : ''}
      suffix={
        <span className={isWrong ? 'attention late' : 'second'}>
          {rule ? repeatInWords(rule) : isWrong ? 'not understood' : ''}
        </span>
      }
    />
  );
}
