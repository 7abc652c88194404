import { type FieldValue, type MovementStepAnswer } from '@zawn/core';
import { X } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { date, number } from '../../platform/frame/format';
import { useOpening } from '../../platform/frame/opening';
import { useSession } from '../../platform/sessions/session';

interface Props {
  title: string;
  step: MovementStepAnswer;
  names: Readonly<Record<number, string>>;
  text: (value: number) => string;
  /** Whether what changed is an amount; else it is a day. */
  isMoney: boolean;
  close: () => void;
}

/** The deals of one step: by how much, from what to what, by whom and when. The largest come first. */
export function MovementEntries({ title, step, names, text, isMoney, close }: Props) {
  const { person, dayOf } = useSession();
  const { open } = useOpening();
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => heading.current?.focus(), [title]);
  const said = (value: FieldValue | undefined) =>
    value === null || value === undefined ? 'nothing' : isMoney ? text(Number(value)) : date(String(value));
  return (
    <aside
      className="records-beside"
      aria-label={title}
      onKeyDown={(event) => {
        if (event.key === 'Escape') close();
      }}
    >
      <header>
        <h2 ref={heading} tabIndex={-1}>
          {title}
        </h2>
        <button type="button" className="icon-button" onClick={close} aria-label="Close the deals">
          <X size={16} aria-hidden />
        </button>
      </header>
      <ul className="movement-entries">
        {step.entries.map(({ deal, value, at, person: who, from, to }, index) => (
          <li key={`${deal} ${index}`}>
            <button type="button" className="link-button" onClick={() => open('deal', deal)}>
              {names[deal] ?? `Deal ${deal}`}
            </button>
            <span className="figure">{text(value)}</span>
            <span className="second">
              {from === undefined ? '' : `${said(from)} → ${said(to)}, `}
              {who === null ? '' : `${person(who)?.name ?? 'someone who left'}, `}
              {date(dayOf(at))}
            </span>
          </li>
        ))}
      </ul>
      {step.count > step.entries.length && (
        <p className="second movement-more">
          The {number(step.entries.length)} largest of {number(step.count)}.
        </p>
      )}
    </aside>
  );
}
