import { useQuery } from '@tanstack/react-query';
import {
  activityBoard,
  allOf,
  boardFigures,
  boardQuestions,
  fieldOf,
  ownersOf,
  type BoardFigure,
  type BoardRow,
  type Condition,
  type FigureRow,
  type Question,
} from '@zawn/core';
import { useMemo, type ReactNode } from 'react';
import { Link, useSearchParams } from 'react-router';
import { figureAnswers } from '../../platform/api/queries';
import { date, number } from '../../platform/frame/format';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { listAddress } from '../../kernel/questions/list-address';
import { useSession } from '../../platform/sessions/session';
import { Change } from './change';
import { OutcomeTable } from './outcome-table';
import { ChoosePeriod, useChosenPeriod } from './period';
import { Weeks } from './weeks';
import './board.css';

/** One digit behind the point, as far as it says something. */
const rounded = (value: number) => number(Math.round(value * 10) / 10);

/** From so many hours on, days say more. */
const IN_DAYS = 48;

const ofPerson = (id: number): Condition => ({ field: 'owner', is: 'anyOf', value: [id] });

interface FigureProps {
  question: Question;
  path?: string;
  children: ReactNode;
}

/** A figure that opens the records behind it. */
const Figure = ({ question, path = 'activities', children }: FigureProps) => (
  <Link to={listAddress(path, question)}>{children}</Link>
);

/** What one person did, each figure opening its records. */
function Row({ row, questions, types }: RowProps) {
  const { person } = useSession();
  const [parameters] = useSearchParams();
  const { owner } = row;
  const theirs = (figure: BoardFigure, more?: Condition): Question => ({
    ...questions[figure],
    where: allOf(questions[figure].where, ofPerson(owner), more),
  });
  const to = new URLSearchParams(parameters);
  to.set('person', String(owner));
  return (
    <tr>
      <th scope="row">
        <Link to={`?${to.toString()}`}>{person(owner)?.name ?? 'Somebody'}</Link>
      </th>
      <td className="figure">
        {row.done === 0 ? '–' : <Figure question={theirs('done')}>{number(row.done)}</Figure>}
        <Change now={row.done} before={row.doneBefore} />
      </td>
      {types.map(({ key }) => {
        const count = row.byType.get(key) ?? 0;
        const question = theirs('done', { field: 'kind', is: 'anyOf', value: [key] });
        return (
          <td key={key} className="figure">
            {count === 0 ? '–' : <Figure question={question}>{number(count)}</Figure>}
          </td>
        );
      })}
      <td className="figure">
        {row.planned === 0 ? (
          '–'
        ) : (
          <>
            <Figure question={theirs('kept')}>{number(row.kept)}</Figure> of{' '}
            <Figure question={theirs('planned')}>{number(row.planned)}</Figure>
          </>
        )}
      </td>
      <td className="figure">
        {row.agreedPerHundred === null ? (
          '–'
        ) : (
          <>
            {row.agreed === 0 ? (
              '0'
            ) : (
              <Figure question={theirs('agreed')}>{rounded(row.agreedPerHundred)}</Figure>
            )}
            <span className="second board-share">
              {number(row.agreed)} of {number(row.calls)}
            </span>
          </>
        )}
      </td>
      <td className="figure">
        {row.hoursToTouch === null ? (
          '–'
        ) : (
          <Figure question={theirs('firstTouch')} path="leads">
            {row.hoursToTouch < IN_DAYS
              ? `${rounded(row.hoursToTouch)} h`
              : `${rounded(row.hoursToTouch / 24)} days`}
          </Figure>
        )}
      </td>
      <td className="figure">
        {row.perOpen === null ? '–' : <Figure question={theirs('onOpen')}>{rounded(row.perOpen)}</Figure>}
      </td>
      <td className="figure">
        {row.perWon === null ? '–' : <Figure question={theirs('onWon')}>{rounded(row.perWon)}</Figure>}
      </td>
    </tr>
  );
}

interface RowProps {
  row: BoardRow;
  questions: Record<BoardFigure, Question>;
  /** The types of activities that somebody did. */
  types: readonly { key: string; label: string }[];
}

function Board({ whose }: { whose: Condition | undefined }) {
  const { catalogue } = useSession();
  const { compared } = useChosenPeriod();
  const questions = useMemo(() => boardQuestions(compared, catalogue, whose), [compared, catalogue, whose]);
  const { data, error, refetch } = useQuery(figureAnswers(boardFigures.map((figure) => questions[figure])));
  if (error) return <Trouble error={error} retry={() => void refetch()} />;
  if (!data) return <Skeleton rows={6} />;
  const answers = Object.fromEntries(
    boardFigures.map((figure, index) => [figure, data[index].rows]),
  ) as unknown as Record<BoardFigure, readonly FigureRow[]>;
  const rows = activityBoard(answers);
  const done = new Set(rows.flatMap(({ byType }) => [...byType.keys()]));
  const types = (fieldOf(catalogue, 'activity', 'kind')?.choices ?? []).filter(({ key }) => done.has(key));
  if (rows.length === 0) return <Empty title="Nothing was planned or done in this period." />;
  return (
    <table>
      <thead>
        <tr>
          <th scope="col">Who</th>
          <th scope="col" className="figure" title="Done in the period, against the period before">
            Done
          </th>
          {types.map(({ key, label }) => (
            <th key={key} scope="col" className="figure">
              {label}
            </th>
          ))}
          <th scope="col" className="figure" title="Of what was due in the period, what was done">
            Planned and done
          </th>
          <th scope="col" className="figure" title="Calls that ended with a meeting agreed, of a hundred">
            Meetings per 100 calls
          </th>
          <th
            scope="col"
            className="figure"
            title="Hours until a lead that came in was called, met or written to, on average"
          >
            First touch
          </th>
          <th
            scope="col"
            className="figure"
            title="Done in the period on deals that are open, for each of them"
          >
            Per open deal
          </th>
          <th
            scope="col"
            className="figure"
            title="Done at any time on deals won in the period, for each of them"
          >
            Per won deal
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <Row key={row.owner} row={row} questions={questions} types={types} />
        ))}
      </tbody>
    </table>
  );
}

/** What people did in a period, against the one before, and how it ended; of all, or of one person. */
export function Component() {
  const { policy, person } = useSession();
  const { compared } = useChosenPeriod();
  const [parameters] = useSearchParams();
  const id = Number(parameters.get('person'));
  const one = id > 0 ? person(id) : undefined;
  const whose = useMemo<Condition | undefined>(
    () => (one ? ofPerson(one.id) : ownersOf(policy, 'activity')),
    [one, policy],
  );
  const all = new URLSearchParams(parameters);
  all.delete('person');
  const { now, before, isGoingOn } = compared;
  return (
    <div className="activity-board">
      <header className="page-head">
        <h1>{one ? one.name : 'Activity board'}</h1>
        <span className="page-count">
          {one && (
            <>
              <Link to={`?${all.toString()}`}>Everyone</Link>,{' '}
            </>
          )}
          {isGoingOn ? 'so far, against the same days from ' : 'against the period from '}
          {date(before.from)}
        </span>
        <span className="page-tools">
          <ChoosePeriod />
        </span>
      </header>
      <section aria-label="What was done">
        <h2>What was done</h2>
        <Board whose={whose} />
      </section>
      <OutcomeTable key={now.from} whose={whose} />
      {one && <Weeks whose={whose} />}
    </div>
  );
}
