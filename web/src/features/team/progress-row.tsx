import { allOf, progressOf, winRate, type FigureRow, type PeriodQuestions, type Question } from '@zawn/core';
import { type ReactNode } from 'react';
import { Link } from 'react-router';
import { listAddress } from '../../kernel/questions/list-address';
import { percent, shortMoney } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';

/** How many deals, and what they are worth in minor units of the reporting currency. */
export interface Sum {
  count: number;
  value: number;
  weighted: number;
}

const NONE: Sum = { count: 0, value: 0, weighted: 0 };

/** Figures of deals by their owner. */
export type ByOwner = ReadonlyMap<number, Sum>;

/** The rows of a question grouped by owner. */
export const byOwner = (rows: readonly FigureRow[]): ByOwner =>
  new Map(
    rows.map(({ keys: [owner], figures: [count, value, weighted] }) => [
      Number(owner),
      { count: count ?? 0, value: value ?? 0, weighted: weighted ?? 0 },
    ]),
  );

/** The sum over some owners; over all of them when none are named. */
export function sumOf(figures: ByOwner, owners: Iterable<number> = figures.keys()): Sum {
  const total = { ...NONE };
  for (const owner of owners) {
    const { count, value, weighted } = figures.get(owner) ?? NONE;
    total.count += count;
    total.value += value;
    total.weighted += weighted;
  }
  return total;
}

/** A figure that opens the records it counts; a dash when there are none. */
function Figure({ to, children, isNothing }: { to: string; children: ReactNode; isNothing: boolean }) {
  return (
    <td className="figure">
      {isNothing ? <span className="second">–</span> : <Link to={to}>{children}</Link>}
    </td>
  );
}

/** What is known of everybody in a period. */
export interface PeriodFigures {
  questions: PeriodQuestions;
  won: ByOwner;
  lost: ByOwner;
  open: ByOwner;
}

interface Props {
  name: string;
  /** How they are marked in the bars above. */
  colour?: string;
  /** Whose deals count. */
  owners: readonly number[];
  /** What they are to win, in minor units. */
  target: number | null;
  figures: PeriodFigures;
}

/** How far a person, a team or everybody has come in a period. Every figure opens its deals. */
export function ProgressRow({ name, colour, owners, target, figures }: Props) {
  const { currency } = useSession().organisation;
  const { questions } = figures;
  const [open, won, lost] = (['open', 'won', 'lost'] as const).map((part) => sumOf(figures[part], owners));
  const { attainment } = progressOf({
    won: won.value,
    open: open.value,
    weightedOpen: open.weighted,
    target,
  });
  const rate = winRate(won, lost).byCount;
  const listOf = (question: Question) =>
    listAddress('deals', {
      ...question,
      where: allOf(question.where, { field: 'owner', is: 'anyOf', value: [...owners] }),
    });
  const [openList, wonList] = [listOf(questions.open), listOf(questions.won)];
  return (
    <tr>
      <th scope="row">
        {colour && <span className="team-colour" style={{ background: colour }} />}
        {name}
      </th>
      <Figure to={openList} isNothing={open.count === 0}>
        {shortMoney(open.value, currency)}
      </Figure>
      <Figure to={openList} isNothing={open.count === 0}>
        {shortMoney(open.weighted, currency)}
      </Figure>
      <Figure to={wonList} isNothing={won.count === 0}>
        {shortMoney(won.value, currency)}
      </Figure>
      <td className="figure">{target ? shortMoney(target, currency) : '–'}</td>
      <td className="figure">{attainment === null ? '–' : percent(attainment)}</td>
      <Figure to={wonList} isNothing={won.count === 0}>
        {won.count}
      </Figure>
      <Figure to={listOf(questions.lost)} isNothing={lost.count === 0}>
        {lost.count}
      </Figure>
      <td className="figure">{rate === null ? '–' : percent(rate)}</td>
    </tr>
  );
}
