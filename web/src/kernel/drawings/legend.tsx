import { Link } from 'react-router';
import { useTheme } from '../../platform/theme/theme';
import { type Drawn } from './drawn';

/** Which colour stands for what; each entry opens the records of its series. */
export function Legend({ drawn }: { drawn: Drawn }) {
  const colours = useTheme().series(drawn.series.length);
  const { legend } = drawn.style ?? {};
  if (drawn.series.length < 2 || legend === 'none') return null;
  return (
    <ul className={legend === 'below' ? 'legend legend-below' : 'legend'} aria-label="Series">
      {drawn.series.map(({ label, to }, index) => (
        <li key={label}>
          <span className="legend-mark" style={{ background: colours[index % colours.length] }} aria-hidden />
          <Link to={to}>{label}</Link>
        </li>
      ))}
    </ul>
  );
}
