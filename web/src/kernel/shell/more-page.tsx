import { Settings2 } from 'lucide-react';
import { Link } from 'react-router';
import { Pinned } from '../views/pinned';
import './more-page.css';
import { groupsOf } from './places';
import { usePlaces } from './use-places';

/** On a phone, everything that has no place in the bar at the foot. */
export function Component() {
  const places = usePlaces().filter(({ onPhone }) => !onPhone);
  return (
    <>
      <header className="page-head">
        <h1>More</h1>
      </header>
      <nav className="more" aria-label="More">
        {groupsOf(places).map((group) => (
          <section key={group}>
            <h2>{group}</h2>
            {places
              .filter((place) => place.group === group)
              .map(({ path, label, icon: Icon }) => (
                <Link key={path} to={path}>
                  <Icon size={18} aria-hidden />
                  {label}
                </Link>
              ))}
          </section>
        ))}
        <Pinned />
        {places.some(({ group }) => group === 'Setup') && (
          <Link to="/setup">
            <Settings2 size={18} aria-hidden />
            Setup
          </Link>
        )}
      </nav>
    </>
  );
}
