import { max } from 'd3-array';
import { Link } from 'react-router';
import { type Drawn } from '../../../kernel/drawings/drawn';
import { useTheme } from '../../../platform/theme/theme';

/** Categories one below the other as bars about a middle, the first on top: how much there is at each step. */
export function FunnelChart({ drawn }: { drawn: Drawn }) {
  const [colour] = useTheme().series(1);
  const { categories, series } = drawn;
  const [{ points }] = series;
  const most = max(points, ({ value }) => value ?? 0) || 1;
  return (
    <ol className="funnel" aria-label={drawn.label}>
      {categories.map(({ label, to }, category) => {
        const { value } = points[category];
        const words = drawn.words(category, 0, points[category]);
        return (
          <li key={label}>
            <Link to={to} className="funnel-name">
              {label}
            </Link>
            <Link to={drawn.to(category, 0)} className="funnel-step" aria-label={words} title={words}>
              <span style={{ width: `${(Math.max(0, value ?? 0) / most) * 100}%`, background: colour }} />
            </Link>
            <span className="figure">{drawn.text(value)}</span>
          </li>
        );
      })}
    </ol>
  );
}
