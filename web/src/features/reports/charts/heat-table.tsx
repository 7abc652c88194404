import { max } from 'd3-array';
import { Link } from 'react-router';
import { type Drawn } from '../../../kernel/drawings/drawn';

/** Categories by series as a table, the larger the figure the deeper its ground. */
export function HeatTable({ drawn }: { drawn: Drawn }) {
  const { categories, series } = drawn;
  const most = max(series, ({ points }) => max(points, ({ value }) => value ?? 0)) || 1;
  return (
    <div className="heat" tabIndex={0} role="region" aria-label={drawn.label}>
      <table>
        <thead>
          <tr>
            <td />
            {series.map(({ label, to }) => (
              <th key={label} scope="col" className="figure">
                <Link to={to}>{label}</Link>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {categories.map(({ label, to }, category) => (
            <tr key={label}>
              <th scope="row">
                <Link to={to}>{label}</Link>
              </th>
              {series.map(({ points, label: name }, index) => {
                const point = points[category];
                const depth = Math.max(0, point.value ?? 0) / most;
                return (
                  <td
                    key={name}
                    className="figure"
                    style={{
                      background: `color-mix(in srgb, var(--water) ${Math.round(depth * 42)}%, transparent)`,
                    }}
                  >
                    {point.count === 0 ? (
                      <span className="second">–</span>
                    ) : (
                      <Link to={drawn.to(category, index)} aria-label={drawn.words(category, index, point)}>
                        {drawn.text(point.value)}
                      </Link>
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
