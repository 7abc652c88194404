import { type ReactNode } from 'react';

/** A line of *Go anywhere*. */
export interface FoundRow {
  /** What choosing it does. */
  value: string;
  label: ReactNode;
  /** What it is called where it is read aloud: its value is an address. */
  'aria-label': string;
  disabled?: true;
}

interface FoundParts {
  detail?: string;
  /** Long words take several lines. */
  isSentence?: true;
  /** The name as it is shown, where that is more than text. */
  shown?: ReactNode;
  disabled?: true;
}

/** A line of *Go anywhere*: of what kind it is, how it is called, and what more is to be said of it. */
export function foundRow(
  value: string,
  kind: string,
  name: string,
  { detail = '', isSentence, shown = name, disabled }: FoundParts = {},
): FoundRow {
  return {
    value,
    label: (
      <span className="hit">
        <span className="hit-kind">{kind}</span>
        <span className={isSentence ? 'hit-name hit-asked' : 'hit-name'}>{shown}</span>
        {detail && <span className="hit-detail">{detail}</span>}
      </span>
    ),
    'aria-label': [kind, name, detail].filter(Boolean).join(', '),
    ...(disabled ? { disabled } : {}),
  };
}
