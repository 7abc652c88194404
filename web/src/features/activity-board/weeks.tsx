import { useQuery } from '@tanstack/react-query';
import { addDays, allOf, ask, fieldOf, type Condition, type Question } from '@zawn/core';
import { Link } from 'react-router';
import { figures } from '../../platform/api/queries';
import { number, shortDate } from '../../platform/frame/format';
import { listAddress } from '../../kernel/questions/list-address';
import { useSession } from '../../platform/sessions/session';

const WEEKS = 8;

/** What somebody did in each of the last weeks, by type. */
export function Weeks({ whose }: { whose: Condition | undefined }) {
  const { catalogue } = useSession();
  const lately: Condition = {
    field: 'doneAt',
    is: 'in',
    value: { direction: 'last', count: WEEKS, unit: 'week' },
  };
  const question: Question = {
    ...ask('activity', allOf(lately, whose)),
    groups: [{ field: 'doneAt', by: 'week' }, { field: 'kind' }],
    measures: [{ as: 'count' }],
  };
  const { data } = useQuery(figures([question]));
  const rows = data?.[0] ?? [];
  const weeks = [...new Set(rows.map(({ keys }) => String(keys[0])))].sort().reverse();
  const known = fieldOf(catalogue, 'activity', 'kind')?.choices ?? [];
  const types = known.filter(({ key }) => rows.some(({ keys }) => keys[1] === key));
  const count = (week: string, type: string) =>
    rows.find(({ keys }) => keys[0] === week && keys[1] === type)?.figures[0] ?? 0;
  if (weeks.length === 0) return null;
  const of = (week: string, type: string): Question => ({
    ...question,
    where: allOf(
      question.where,
      { field: 'kind', is: 'anyOf', value: [type] },
      { field: 'doneAt', is: 'between', value: [week, addDays(week, 6)] },
    ),
  });
  return (
    <section aria-label="Week by week">
      <h2>Week by week</h2>
      <table>
        <thead>
          <tr>
            <th scope="col">From</th>
            {types.map(({ key, label }) => (
              <th key={key} scope="col" className="figure">
                {label}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {weeks.map((week) => (
            <tr key={week}>
              <th scope="row">{shortDate(week)}</th>
              {types.map(({ key }) => {
                const done = count(week, key);
                return (
                  <td key={key} className="figure">
                    {done === 0 ? (
                      '–'
                    ) : (
                      <Link to={listAddress('activities', of(week, key))}>{number(done)}</Link>
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
