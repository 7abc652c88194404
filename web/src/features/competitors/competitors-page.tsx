import { useQuery } from '@tanstack/react-query';
import {
  competitorFigures,
  competitorQuestions,
  fieldOf,
  type CompetitorFigures,
  type CompetitorQuestions,
  type Field,
} from '@zawn/core';
import { Link } from 'react-router';
import { figureAnswers } from '../../platform/api/queries';
import { briefMoney, number, percent } from '../../platform/frame/format';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { listAddress } from '../../kernel/questions/list-address';
import { Unrated } from '../../kernel/questions/unrated';
import { useSession } from '../../platform/sessions/session';
import { ClosedWithin, useClosedWithin } from './period';
import './competitors.css';

const parts = ['open', 'won', 'lost', 'lostTo'] as const;
type Part = (typeof parts)[number];

/** How many deals and what they are worth, which opens them. */
function Deals({ of, to }: { of: CompetitorFigures[Part]; to: string }) {
  const { organisation, policy } = useSession();
  if (of.count === 0) return <td className="figure second">–</td>;
  return (
    <td className="figure">
      <Link to={to}>{number(of.count)}</Link>
      {!policy.hidden('deal').has('value') && (
        <span className="second"> {briefMoney(of.value, organisation.currency)}</span>
      )}
    </td>
  );
}

function Row({ figures, search }: { figures: CompetitorFigures; search: string }) {
  const { since } = useClosedWithin();
  const questions: CompetitorQuestions = competitorQuestions(since, figures.key);
  const { rate } = figures;
  return (
    <tr>
      <th scope="row">
        <Link to={`/competitors/${figures.key}${search}`}>{figures.name}</Link>
      </th>
      {parts.map((part) => (
        <Deals key={part} of={figures[part]} to={listAddress('deals', questions[part])} />
      ))}
      <td className="figure">{rate === null ? '–' : percent(rate)}</td>
      <td>
        {rate !== null && <span className="rate-bar" style={{ ['--share' as string]: `${rate * 100}%` }} />}
      </td>
    </tr>
  );
}

/** Every competitor with what was won and lost against it. */
export function Component() {
  const { catalogue, policy } = useSession();
  const { since, search } = useClosedWithin();
  const questions = competitorQuestions(since);
  const asked = parts.map((part) => questions[part]);
  const { data, error, refetch } = useQuery(figureAnswers(asked));
  if (error) return <Trouble error={error} retry={() => void refetch()} />;
  if (!data) return <Skeleton rows={8} />;
  const { choices = [] } = fieldOf(catalogue, 'deal', 'competitors') as Field;
  const all = competitorFigures(
    choices,
    data.map(({ rows }) => rows),
  );
  return (
    <div className="competitors">
      <header className="page-head">
        <h1>Competitors</h1>
        <span className="page-count">who else offers to the same customers</span>
        <span className="page-tools">
          <ClosedWithin />
        </span>
      </header>
      {all.length === 0 ? (
        <Empty title="No competitors are listed yet">
          {policy.may('setUpFields') ? (
            <Link to="/setup/choices?list=competitor">List the first ones</Link>
          ) : (
            'Whoever sets up Zawn lists them; then deals can name them.'
          )}
        </Empty>
      ) : (
        <>
          <table>
            <thead>
              <tr>
                <th scope="col">Competitor</th>
                <th scope="col" className="figure">
                  Open
                </th>
                <th scope="col" className="figure">
                  Won
                </th>
                <th scope="col" className="figure">
                  Lost
                </th>
                <th scope="col" className="figure">
                  Lost to them
                </th>
                <th scope="col" className="figure">
                  Win rate
                </th>
                <th scope="col">
                  <span className="visually-hidden">Win rate as a bar</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {all.map((figures) => (
                <Row key={figures.key} figures={figures} search={search} />
              ))}
            </tbody>
          </table>
          <p className="second competitors-note">
            A deal with several competitors counts with each. Win rate: won ÷ (won + lost).
          </p>
          <Unrated parts={data.map(({ unrated }, at) => [asked[at], unrated] as const)} />
        </>
      )}
    </div>
  );
}
