import { useQuery } from '@tanstack/react-query';
import {
  allOf,
  fieldOf,
  offered,
  outcomeQuestion,
  outcomesOf,
  outcomeTable,
  type Condition,
  type OutcomeRow,
  type Question,
  type Times,
} from '@zawn/core';
import { Segmented } from 'antd';
import { Link, useSearchParams } from 'react-router';
import { figures } from '../../platform/api/queries';
import { number, percent } from '../../platform/frame/format';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { listAddress } from '../../kernel/questions/list-address';
import { useSession } from '../../platform/sessions/session';
import { Change } from './change';
import { useChosenPeriod } from './period';

const TYPE = 'type';

/** Who had which outcome how often: of the calls, or of another type. Every cell opens its activities. */
export function OutcomeTable({ whose }: { whose: Condition | undefined }) {
  const { catalogue, person } = useSession();
  const { compared } = useChosenPeriod();
  const [parameters, setParameters] = useSearchParams();
  const types = offered(fieldOf(catalogue, 'activity', 'kind')?.choices).filter(
    ({ key }) => outcomesOf(catalogue, key).length > 0,
  );
  const type = types.find(({ key }) => key === parameters.get(TYPE))?.key ?? 'call';
  const question = outcomeQuestion(type, compared.now, whose);
  const { data, error, refetch } = useQuery(
    figures([question, outcomeQuestion(type, compared.before, whose)]),
  );
  const rows = data && outcomeTable(data[0], data[1]);
  const all = rows?.at(-1);
  // Those offered now, and those that were chosen before they were retired; none stands last.
  const known = fieldOf(catalogue, 'activity', 'outcome')?.choices ?? [];
  const now = outcomesOf(catalogue, type);
  const columns = [...known.filter((each) => now.includes(each) || all?.cells.has(each.key)), undefined];
  return (
    <section aria-label="How it ended">
      <header>
        <h2>How it ended</h2>
        <Segmented
          size="small"
          value={type}
          options={types.map(({ key, label }) => ({ value: key, label }))}
          onChange={(value) =>
            setParameters(
              (before) => {
                before.set(TYPE, value);
                return before;
              },
              { replace: true },
            )
          }
          aria-label="Of which type"
        />
        <Link to={listAddress('activities', question)}>All of them</Link>
      </header>
      {error ? (
        <Trouble error={error} retry={() => void refetch()} />
      ) : !rows ? (
        <Skeleton rows={5} />
      ) : rows.length === 0 ? (
        <Empty title="None of this type was done in these periods." />
      ) : (
        <table className="outcome-table">
          <thead>
            <tr>
              <th scope="col">Who</th>
              {columns.map((choice) => (
                <th key={choice?.key ?? ''} scope="col" className="figure">
                  {choice?.label ?? <span className="attention">None</span>}
                </th>
              ))}
              <th scope="col" className="figure">
                All
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.owner ?? 'all'} className={row.owner === null ? 'board-all' : ''}>
                <th scope="row">{row.owner === null ? 'Together' : person(row.owner)?.name}</th>
                {columns.map((choice) => (
                  <Cell
                    key={choice?.key ?? ''}
                    times={row.cells.get(choice?.key ?? null)}
                    question={narrowed(question, row, choice?.key ?? null)}
                  />
                ))}
                <Cell times={{ ...row.total, share: null }} question={narrowed(question, row)} />
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

/** What a cell counts. */
function narrowed(question: Question, { owner }: OutcomeRow, outcome?: string | null): Question {
  const theirs: Condition | undefined =
    owner === null ? undefined : { field: 'owner', is: 'anyOf', value: [owner] };
  const ended: Condition | undefined =
    outcome === undefined
      ? undefined
      : outcome === null
        ? { field: 'outcome', is: 'isEmpty' }
        : { field: 'outcome', is: 'anyOf', value: [outcome] };
  return { ...question, where: allOf(question.where, theirs, ended) };
}

function Cell({ times, question }: { times: Times | undefined; question: Question }) {
  if (!times || (times.count === 0 && times.before === 0)) return <td className="figure second">–</td>;
  const { count, before, share } = times;
  return (
    <td className="figure">
      {count === 0 ? '0' : <Link to={listAddress('activities', question)}>{number(count)}</Link>}
      <Change now={count} before={before} />
      {share !== null && <span className="second board-share">{percent(share)}</span>}
    </td>
  );
}
