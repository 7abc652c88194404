import { type ReactNode } from 'react';

/** Something that can be chosen about an import, under its label. */
export function Option({ label, children }: { label: string; children: ReactNode }) {
  return (
    <label className="import-option">
      {label}
      {children}
    </label>
  );
}
