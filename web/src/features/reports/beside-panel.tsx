import { X } from 'lucide-react';
import { useEffect, useRef, type ReactNode } from 'react';
import { useOpening } from '../../platform/frame/opening';

interface Props {
  label: string;
  heading: string;
  /** What stands in the head beside the name. */
  also?: ReactNode;
  /** Another one of it is another thing to read: its heading takes the focus. */
  of: unknown;
  close: () => void;
  children: ReactNode;
}

/** What stands beside a report: the records behind one of its figures. Escape closes it, a sheet over it first. */
export function BesidePanel({ label, heading, also, of, close, children }: Props) {
  const { opened } = useOpening();
  const title = useRef<HTMLHeadingElement>(null);
  useEffect(() => title.current?.focus(), [of]);
  return (
    <aside
      className="records-beside"
      aria-label={label}
      onKeyDown={(event) => {
        if (event.key === 'Escape' && !opened) close();
      }}
    >
      <header>
        <h2 ref={title} tabIndex={-1}>
          {heading}
        </h2>
        {also}
        <button type="button" className="icon-button" onClick={close} aria-label="Close the records">
          <X size={16} aria-hidden />
        </button>
      </header>
      {children}
    </aside>
  );
}
