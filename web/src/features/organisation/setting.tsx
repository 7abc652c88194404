import { useId, type ReactNode } from 'react';

/** Something that is set, under what it is called. */
export function Setting({ label, children }: { label: string; children: (id: string) => ReactNode }) {
  const id = useId();
  return (
    <div className="setting">
      <label htmlFor={id}>{label}</label>
      {children(id)}
    </div>
  );
}
