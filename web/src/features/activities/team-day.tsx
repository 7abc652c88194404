import { useQuery } from '@tanstack/react-query';
import { allOf, ask, type Condition, type Question } from '@zawn/core';
import { Link } from 'react-router';
import { figures } from '../../platform/api/queries';
import { number } from '../../platform/frame/format';
import { listAddress } from '../../kernel/questions/list-address';
import { useSession } from '../../platform/sessions/session';

const isOpen: Condition = { field: 'doneAt', is: 'isEmpty' };
const dueBy = (is: 'before' | 'is', days = 0): Condition => ({ field: 'dueOn', is, value: { days } });

/** What is counted of each day, and the records behind it. */
const counts = [
  {
    key: 'done',
    label: 'Done today',
    of: 'activity',
    where: [{ field: 'doneAt', is: 'in', value: { unit: 'day', offset: 0 } }],
  },
  { key: 'due', label: 'Still today', of: 'activity', where: [isOpen, dueBy('is')] },
  { key: 'overdue', label: 'Overdue', of: 'activity', where: [isOpen, dueBy('before')] },
  {
    key: 'unplanned',
    label: 'Deals without a next step',
    of: 'deal',
    where: [
      { field: 'outcome', is: 'anyOf', value: ['open'] },
      { field: 'nextStepOn', is: 'isEmpty' },
    ],
  },
] as const satisfies readonly {
  key: string;
  label: string;
  of: 'activity' | 'deal';
  where: readonly Condition[];
}[];

interface Props {
  whose: Condition | undefined;
  /** Shows the day of one of them. */
  show: (person: number) => void;
}

/** The days of a team side by side: what is done, what is left, and what nobody planned. Every count opens its list. */
export function TeamDay({ whose, show }: Props) {
  const { person } = useSession();
  const questions = counts.map(({ of, where }): Question => ({
    ...ask(of, allOf(...where, whose)),
    groups: [{ field: 'owner' }],
    measures: [{ as: 'count' }],
  }));
  const { data } = useQuery(figures(questions));
  if (!data) return null;
  const owners = [...new Set(data.flat().map(({ keys }) => Number(keys[0])))];
  const count = (index: number, owner: number) =>
    data[index].find(({ keys }) => keys[0] === owner)?.figures[0] ?? 0;
  const rows = owners
    .map((owner) => ({ owner, name: person(owner)?.name ?? '' }))
    .toSorted((a, b) => a.name.localeCompare(b.name));
  if (rows.length < 2) return null;
  return (
    <section className="team-day" aria-label="The team’s day">
      <table>
        <thead>
          <tr>
            <th scope="col">Whose day</th>
            {counts.map(({ key, label }) => (
              <th key={key} scope="col" className="figure">
                {label}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(({ owner, name }) => (
            <tr key={owner}>
              <th scope="row">
                <button type="button" className="link-button" onClick={() => show(owner)}>
                  {name}
                </button>
              </th>
              {counts.map(({ key, of }, index) => {
                const found = count(index, owner);
                const { groups: _groups, measures: _measures, ...question } = questions[index];
                const where = allOf(question.where, { field: 'owner', is: 'anyOf', value: [owner] });
                const path = of === 'deal' ? 'deals' : 'activities';
                return (
                  <td key={key} className="figure">
                    {found === 0 ? (
                      '–'
                    ) : (
                      <Link
                        to={listAddress(path, { ...question, where })}
                        className={key === 'overdue' ? 'attention late' : undefined}
                      >
                        {number(found)}
                      </Link>
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
