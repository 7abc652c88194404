import { type ReactNode } from 'react';
import { Link } from 'react-router';
import { useSession } from '../../platform/sessions/session';

/** Something that is kept and can be gone to. */
export interface ShelfEntry {
  key: string;
  name: string;
  about: string | null;
  /** Whose it is, where that is said. */
  whose?: string;
}

/** Shared things on two shelves: one's own, and those of others with whose they are. */
export function useOwnAndShared<T extends { id: number; name: string; owner: number }>(
  kept: readonly T[],
  aboutOf: (each: T) => string | null,
): [shelf: string, entries: readonly ShelfEntry[]][] {
  const { me, person } = useSession();
  const entryOf = (each: T): ShelfEntry => ({
    key: String(each.id),
    name: each.name,
    about: aboutOf(each),
    ...(each.owner === me.id ? {} : { whose: person(each.owner)?.name ?? 'someone who left' }),
  });
  return [
    ['My own', kept.filter(({ owner }) => owner === me.id).map(entryOf)],
    ['Shared with me', kept.filter(({ owner }) => owner !== me.id).map(entryOf)],
  ];
}

interface Props {
  shelves: readonly [shelf: string, entries: readonly ShelfEntry[]][];
  /** Where the entries are gone to: `/reports`. */
  path: string;
  /** What else is said of an entry. */
  also?: (key: string) => ReactNode;
}

/** Entries under the name of their shelf; shelves without any are left out. */
export function Shelves({ shelves, path, also }: Props) {
  return shelves
    .filter(([, entries]) => entries.length > 0)
    .map(([shelf, entries]) => (
      <section key={shelf} aria-label={shelf} className="report-shelf">
        <h2>{shelf}</h2>
        <ul>
          {entries.map(({ key, name, about, whose }) => (
            <li key={key}>
              <Link to={`${path}/${key}`}>{name}</Link>
              {whose && <span className="second"> {whose}’s</span>}
              {also?.(key)}
              {about && <p className="second">{about}</p>}
            </li>
          ))}
        </ul>
      </section>
    ));
}
