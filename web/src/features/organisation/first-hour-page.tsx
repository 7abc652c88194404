import { FirstHour } from './first-hour';

/** The first hour as a page of its own, for whoever put it away and takes it up again. */
export function Component() {
  return (
    <>
      <header className="page-head">
        <h1>The first hour</h1>
        <span className="page-count">from nothing to a working organisation</span>
      </header>
      <FirstHour isPage />
    </>
  );
}
