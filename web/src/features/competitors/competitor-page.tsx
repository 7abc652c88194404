import { useQuery } from '@tanstack/react-query';
import {
  allOf,
  choiceLabel,
  competitorFigures,
  competitorQuestions,
  fieldOf,
  type CompetitorFigures,
  type Field,
  type FigureRow,
  type Question,
} from '@zawn/core';
import { Link, useParams } from 'react-router';
import { fewRecords, figureAnswers } from '../../platform/api/queries';
import { briefMoney, date, money, number, percent } from '../../platform/frame/format';
import { useOpening } from '../../platform/frame/opening';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { listAddress } from '../../kernel/questions/list-address';
import { Unrated } from '../../kernel/questions/unrated';
import { useSession } from '../../platform/sessions/session';
import { ClosedWithin, useClosedWithin } from './period';
import './competitors.css';

/** Open deals that are shown; the others are a click away. */
const SHOWN = 8;

const parts = [
  ['open', 'Open against them'],
  ['won', 'Won'],
  ['lost', 'Lost'],
  ['lostTo', 'Lost to them'],
] as const;

interface ReasonsProps {
  title: string;
  /** Deals grouped by one field. */
  question: Question;
  rows: readonly FigureRow[];
  label: (key: string) => string;
}

/** How often each reason or stage was named, the most frequent first, each opening its deals. */
function Reasons({ title, question, rows, label }: ReasonsProps) {
  const [{ field }] = question.groups ?? [{ field: '' }];
  const sorted = rows.toSorted((a, b) => (b.figures[0] ?? 0) - (a.figures[0] ?? 0));
  const most = sorted[0]?.figures[0] ?? 1;
  return (
    <section aria-label={title}>
      <h2>{title}</h2>
      {sorted.length === 0 && <p className="second">No deal yet.</p>}
      <ul>
        {sorted.map(({ keys: [key], figures: [count] }) => {
          const where = allOf(
            question.where,
            key === null ? { field, is: 'isEmpty' } : { field, is: 'anyOf', value: [key as string | number] },
          );
          return (
            <li key={String(key)}>
              <Link to={listAddress('deals', { ...question, where })}>
                <span className="clip">{key === null ? 'Not said' : label(String(key))}</span>
                <span
                  className="rate-bar"
                  style={{ ['--share' as string]: `${(100 * (count ?? 0)) / most}%` }}
                />
                <b>{number(count ?? 0)}</b>
              </Link>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** The largest deals that are open against it. */
function OpenDeals({ question, count }: { question: Question; count: number }) {
  const { open } = useOpening();
  const { person } = useSession();
  const { groups: _groups, measures: _measures, ...plain } = question;
  const { data } = useQuery(
    fewRecords(
      { ...plain, sort: [{ field: 'value', descending: true }], columns: ['account.name', 'stage.name'] },
      SHOWN,
    ),
  );
  if (!data || data.rows.length === 0) return null;
  return (
    <section className="competitor-open" aria-label="Open against them">
      <h2>Open against them</h2>
      <table>
        <tbody>
          {data.rows.map((deal) => (
            <tr key={deal.id}>
              <th scope="row">
                <button type="button" className="link-button" onClick={() => open('deal', deal.id)}>
                  {String(deal.name)}
                </button>
              </th>
              <td>{String(deal['stage.name'] ?? '')}</td>
              <td>{person(Number(deal.owner))?.name}</td>
              <td>closes {date(String(deal.closeOn))}</td>
              <td className="figure">
                {deal.value === undefined ? '' : money(Number(deal.value), String(deal.currency))}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {count > data.rows.length && (
        <p>
          <Link to={listAddress('deals', question)}>All {number(count)} of them</Link>
        </p>
      )}
    </section>
  );
}

/** The figures of a competitor, each opening its deals. */
function Figures({
  figures,
  questions,
}: {
  figures: CompetitorFigures;
  questions: Record<string, Question>;
}) {
  const { organisation, policy } = useSession();
  return (
    <dl className="competitor-figures">
      {parts.map(([part, label]) => (
        <div key={part}>
          <dt>{label}</dt>
          <dd>
            {figures[part].count === 0 ? (
              'None'
            ) : (
              <Link to={listAddress('deals', questions[part])}>{number(figures[part].count)}</Link>
            )}
            {figures[part].count > 0 && !policy.hidden('deal').has('value') && (
              <span className="second"> {briefMoney(figures[part].value, organisation.currency)}</span>
            )}
          </dd>
        </div>
      ))}
      <div>
        <dt title="Won ÷ (won + lost)">Win rate</dt>
        <dd>{figures.rate === null ? 'Nothing closed' : percent(figures.rate)}</dd>
      </div>
    </dl>
  );
}

/** One competitor: deals against it, how many were won and lost, what they were worth, and why. */
export function Component() {
  const { competitor = '' } = useParams();
  const { catalogue, stages } = useSession();
  const { since, search } = useClosedWithin();
  const field = (key: string) => fieldOf(catalogue, 'deal', key) as Field;
  const { choices = [] } = field('competitors');
  const questions = competitorQuestions(since, competitor);
  const by = (question: Question, key: string): Question => ({ ...question, groups: [{ field: key }] });
  const why = {
    won: by(questions.won, 'wonReasons'),
    lost: by(questions.lost, 'lossReason'),
    stage: by(questions.lost, 'stage'),
  };
  const counted = parts.map(([part]) => questions[part]);
  const { data, error, refetch } = useQuery(figureAnswers([...counted, ...Object.values(why)]));
  if (error) return <Trouble error={error} retry={() => void refetch()} />;
  const known = choices.filter(({ key }) => key === competitor);
  if (known.length === 0)
    return (
      <Empty title="There is no such competitor.">
        <Link to="/competitors">All competitors</Link>
      </Empty>
    );
  if (!data) return <Skeleton rows={8} />;
  const rows = data.map((answer) => answer.rows);
  const [figures] = competitorFigures(
    known.map(({ key, label }) => ({ key, label })),
    rows.slice(0, 4),
  );
  const [won, lost, left] = rows.slice(4);
  const stageName = (id: string) => stages.find((stage) => stage.id === Number(id))?.name ?? 'A stage';
  return (
    <div className="competitors">
      <header className="page-head">
        <h1>{figures.name}</h1>
        <span className="page-count">
          <Link to={`/competitors${search}`}>All competitors</Link>
        </span>
        <span className="page-tools">
          <ClosedWithin />
        </span>
      </header>
      <Figures figures={figures} questions={{ ...questions }} />
      <div className="competitor-reasons">
        <Reasons
          title="Won because"
          question={why.won}
          rows={won}
          label={(key) => choiceLabel(field('wonReasons'), key)}
        />
        <Reasons
          title="Lost because"
          question={why.lost}
          rows={lost}
          label={(key) => choiceLabel(field('lossReason'), key)}
        />
        <Reasons title="Lost at the stage" question={why.stage} rows={left} label={stageName} />
      </div>
      <OpenDeals question={questions.open} count={figures.open.count} />
      <Unrated parts={data.slice(0, 4).map(({ unrated }, at) => [counted[at], unrated] as const)} />
    </div>
  );
}
