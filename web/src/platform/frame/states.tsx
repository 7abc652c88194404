import { Button } from 'antd';
import { type ReactNode } from 'react';
import { Link } from 'react-router';

/** While the first answer is on its way. */
export function Waiting() {
  return <div className="waiting" role="status" aria-label="Loading" />;
}

interface EmptyProps {
  /** What would be here. */
  title: string;
  children?: ReactNode;
}

/** An empty place: what would be here, and the step that fills it. */
export function Empty({ title, children }: EmptyProps) {
  return (
    <div className="empty">
      <p className="empty-title">{title}</p>
      {children}
    </div>
  );
}

/** Something could not be read: what happened, and the way on. */
export function Trouble({ error, retry }: { error: Error; retry: () => void }) {
  return (
    <div className="empty" role="alert">
      <p className="empty-title">This could not be loaded.</p>
      <p>{error.message}</p>
      <Button onClick={retry}>Try again</Button>
    </div>
  );
}

export function Unreachable({ retry }: { retry: () => void }) {
  return (
    <main className="lost">
      <Trouble error={new Error('Zawn cannot be reached from here.')} retry={retry} />
    </main>
  );
}

export function LostPage() {
  return (
    <Empty title="There is no page at this address.">
      <Link to="/">Go to Today</Link>
    </Empty>
  );
}

/** A page that failed while it was drawn: the others go on, and so does this one when it is read again. */
export function BrokenPage() {
  return (
    <div className="empty" role="alert">
      <p className="empty-title">This page could not be drawn.</p>
      <p>Nothing was written. Read it again, or go on elsewhere.</p>
      <Button onClick={() => location.reload()}>Read it again</Button>
      <Link to="/">Go to Today</Link>
    </div>
  );
}

/** Lines in the place of text that is on its way, so that nothing jumps when it comes. */
export function Skeleton({ rows = 5 }: { rows?: number }) {
  return (
    <div className="skeleton" role="status" aria-label="Loading">
      {Array.from({ length: rows }, (_, index) => (
        <div key={index} style={{ width: `${92 - ((index * 17) % 40)}%` }} />
      ))}
    </div>
  );
}
