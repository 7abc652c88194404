import { Popover } from 'antd';
import { isFocusLost } from '../../platform/frame/focus';
import { useEffect, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';

export interface TokenProps {
  /** What the part of the sentence says. */
  children: ReactNode;
  /** What it is, for those who do not see the sentence around it. */
  label: string;
  /** The picker that changes it. `typed` is the letter it was opened with. */
  picker: (close: () => void, typed: string) => ReactNode;
  /** Takes the part out of the sentence. */
  onRemove?: () => void;
  /** Opens at once: a part just begun. */
  startsOpen?: boolean;
  /** Called when it is closed again. */
  onClosed?: () => void;
  kind?: 'field' | 'verb' | 'value' | 'word' | 'add';
  /** It has no value yet. */
  isMissing?: boolean;
}

/** Words of the sentence between its tokens. The space after them is a real one, for those who copy or hear it. */
export function Said({ children }: { children: ReactNode }) {
  return children === '' ? null : (
    <>
      <span className="said">{children}</span>{' '}
    </>
  );
}

export function Comma() {
  return (
    <>
      <span className="comma">,</span>{' '}
    </>
  );
}

/** The token beside another in the order in which they are read. */
function neighbour(from: HTMLElement, step: number): HTMLElement | undefined {
  const all = [...(from.closest('.sentence')?.querySelectorAll<HTMLElement>('.token') ?? [])];
  return all[all.indexOf(from) + step];
}

/**
 * One part of the sentence, to click or to type into: Enter or a letter opens it, Backspace takes it out, the
 * arrows go on to the next.
 */
export function Token({
  children,
  label,
  picker,
  onRemove,
  startsOpen = false,
  onClosed,
  kind = 'value',
  isMissing,
}: TokenProps) {
  const [opened, setOpened] = useState<{ typed: string } | undefined>(startsOpen ? { typed: '' } : undefined);
  const button = useRef<HTMLButtonElement>(null);
  const content = useRef<HTMLDivElement>(null);
  const wasOpen = useRef(startsOpen);
  const isOpen = opened !== undefined;
  useEffect(() => {
    // The sentence goes on from here by keyboard, unless the person has gone elsewhere.
    if (wasOpen.current && !isOpen && isFocusLost(content.current)) button.current?.focus();
    wasOpen.current = isOpen;
  }, [isOpen]);
  const close = () => {
    setOpened(undefined);
    onClosed?.();
  };
  const press = (event: KeyboardEvent<HTMLButtonElement>) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === 'Escape') event.currentTarget.blur();
    else if (event.key === 'ArrowRight' || event.key === 'ArrowLeft') {
      event.preventDefault();
      neighbour(event.currentTarget, event.key === 'ArrowRight' ? 1 : -1)?.focus();
    } else if (event.key === 'Home' || event.key === 'End') {
      event.preventDefault();
      const all = event.currentTarget.closest('.sentence')?.querySelectorAll<HTMLElement>('.token');
      all?.[event.key === 'Home' ? 0 : all.length - 1]?.focus();
    } else if ((event.key === 'Backspace' || event.key === 'Delete') && onRemove) {
      event.preventDefault();
      neighbour(event.currentTarget, -1)?.focus();
      onRemove();
    } else if (event.key.length === 1 && event.key !== ' ') {
      // A letter opens the part and narrows it at once.
      event.preventDefault();
      event.stopPropagation();
      setOpened({ typed: event.key });
    }
  };
  return (
    <>
      <Popover
        open={isOpen}
        onOpenChange={(open) => (open ? setOpened({ typed: '' }) : close())}
        trigger="click"
        placement="bottomLeft"
        arrow={false}
        destroyOnHidden
        classNames={{ root: 'token-popover' }}
        content={
          <div
            ref={content}
            onKeyDown={(event) => {
              if (event.key !== 'Escape') return;
              event.stopPropagation();
              close();
            }}
          >
            {opened && picker(close, opened.typed)}
          </div>
        }
      >
        <button
          ref={button}
          type="button"
          className={`token token-${kind} ${isMissing ? 'token-missing' : ''}`}
          aria-label={`${label}: ${typeof children === 'string' ? children : ''}`}
          aria-haspopup="listbox"
          aria-expanded={isOpen}
          onKeyDown={press}
        >
          {children}
        </button>
      </Popover>{' '}
    </>
  );
}
