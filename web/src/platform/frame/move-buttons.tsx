import { ConfigProvider } from 'antd';
import { ArrowDown, ArrowUp } from 'lucide-react';

/** A list with the member at one place moved a step on or back. */
export function moved<T>(all: readonly T[], at: number, step: 1 | -1): T[] {
  const next = [...all];
  next.splice(at + step, 0, ...next.splice(at, 1));
  return next;
}

interface Props {
  /** What is moved, for those who do not see the row. */
  name: string;
  at: number;
  count: number;
  move: (step: 1 | -1) => void;
  /** What the directions are called when rows stand for columns. */
  words?: readonly [back: string, on: string];
}

/** Two buttons that move a row of an ordered list. */
export function MoveButtons({ name, at, count, move, words: [back, on] = ['up', 'down'] }: Props) {
  // What is not to be changed is not moved either.
  const { componentDisabled } = ConfigProvider.useConfig();
  return (
    <>
      <button
        type="button"
        className="icon-button"
        disabled={componentDisabled || at === 0}
        onClick={() => move(-1)}
        aria-label={`Move ${name} ${back}`}
      >
        <ArrowUp size={13} aria-hidden />
      </button>
      <button
        type="button"
        className="icon-button"
        disabled={componentDisabled || at === count - 1}
        onClick={() => move(1)}
        aria-label={`Move ${name} ${on}`}
      >
        <ArrowDown size={13} aria-hidden />
      </button>
    </>
  );
}
