import { initials } from './format';

/** A person at a glance: their photo, or the first letters of their name. */
export function PersonMark({ id, name, photo }: { id: number; name: string; photo?: string | null }) {
  return photo == null ? (
    <span className="initials" aria-hidden>
      {initials(name)}
    </span>
  ) : (
    <img className="initials" src={`/api/v1/people/${id}/photo?photo=${photo}`} alt="" />
  );
}
