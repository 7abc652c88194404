import { Button } from 'antd';
import { type ReactNode } from 'react';
import './inline-form.css';

interface Props {
  save: () => void;
  close: () => void;
  /** What the button says it will do. */
  label: string;
  isBusy: boolean;
  isReady: boolean;
  children: ReactNode;
  className?: string;
  name?: string;
}

const isListOpen = (at: EventTarget) =>
  at instanceof Element && at.closest('[role="combobox"][aria-expanded="true"]') !== null;

/** A short form in the place it belongs to: Ctrl+Enter saves from anywhere in it, Escape closes it. */
export function InlineForm({
  save,
  close,
  label,
  isBusy,
  isReady,
  children,
  className = 'composer-form',
  name,
}: Props) {
  return (
    <form
      className={className}
      aria-label={name}
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
      onKeyDown={(event) => {
        if (event.key === 'Escape') {
          event.stopPropagation();
          // The first closes a list that is open in it.
          if (!isListOpen(event.target)) close();
        }
        if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) save();
      }}
    >
      {children}
      <div className="done-actions">
        <Button type="primary" htmlType="submit" loading={isBusy} disabled={!isReady}>
          {label}
        </Button>
        <Button type="text" onClick={close}>
          Cancel
        </Button>
      </div>
    </form>
  );
}
