import { Link } from 'react-router';
import { type Drawn } from '../../../kernel/drawings/drawn';
import { Legend } from '../../../kernel/drawings/legend';
import { percent } from '../../../platform/frame/format';
import { useTheme } from '../../../platform/theme/theme';

/** What each part has of the whole: a bar cut into its series for each category, or one cut into the categories. */
export function ShareChart({ drawn }: { drawn: Drawn }) {
  const { categories, series } = drawn;
  const isSplit = series.length > 1;
  const colours = useTheme().series(isSplit ? series.length : categories.length);
  const parts = isSplit
    ? categories.map(({ label, to }, category) => ({
        label,
        to,
        of: series.map(({ points, label: name }, index) => ({
          name,
          point: points[category],
          to: drawn.to(category, index),
          words: drawn.words(category, index, points[category]),
        })),
      }))
    : [
        {
          label: drawn.label,
          to: series[0].to,
          of: categories.map(({ label }, category) => ({
            name: label,
            point: series[0].points[category],
            to: drawn.to(category, 0),
            words: drawn.words(category, 0, series[0].points[category]),
          })),
        },
      ];
  return (
    <>
      <Legend drawn={drawn} />
      <div className="shares">
        {parts.map(({ label, to, of }) => {
          const whole = of.reduce((sum, { point }) => sum + Math.max(0, point.value ?? 0), 0);
          return (
            <div key={label} className="share-row">
              {isSplit && <Link to={to}>{label}</Link>}
              <div className="share-bar">
                {of.map(({ point, to: address, words, name }, index) => {
                  const part = whole === 0 ? 0 : Math.max(0, point.value ?? 0) / whole;
                  if (part === 0) return null;
                  return (
                    <Link
                      key={name}
                      to={address}
                      aria-label={`${words}, ${percent(part)}`}
                      title={`${words}, ${percent(part)}`}
                      style={{ flexGrow: part, background: colours[index % colours.length] }}
                    />
                  );
                })}
              </div>
            </div>
          );
        })}
        {!isSplit && (
          <ul className="share-names">
            {parts[0].of.map(({ name, point, to, words }, index) => {
              const whole = parts[0].of.reduce((sum, each) => sum + Math.max(0, each.point.value ?? 0), 0);
              return (
                <li key={name}>
                  <span
                    className="legend-mark"
                    style={{ background: colours[index % colours.length] }}
                    aria-hidden
                  />
                  <Link to={to} title={words}>
                    {name}
                  </Link>
                  <span className="figure">{drawn.text(point.value)}</span>
                  <span className="figure second">
                    {whole === 0 ? '' : percent(Math.max(0, point.value ?? 0) / whole)}
                  </span>
                </li>
              );
            })}
          </ul>
        )}
      </div>
    </>
  );
}
