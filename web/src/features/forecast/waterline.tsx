import { useQuery } from '@tanstack/react-query';
import {
  fieldOf,
  fiscalQuarterLabel,
  periodQuestions,
  progressOf,
  type Condition,
  type FiguresAnswer,
  type Question,
  type RelativePeriod,
  type Waterline as Figures,
} from '@zawn/core';
import { Link } from 'react-router';
import { figureAnswers } from '../../platform/api/queries';
import { counted, money, percent, shortMoney } from '../../platform/frame/format';
import { listAddress } from '../../kernel/questions/list-address';
import { Unrated } from '../../kernel/questions/unrated';
import { useSession } from '../../platform/sessions/session';
import './waterline.css';

const THIS_QUARTER: RelativePeriod = { unit: 'fiscalQuarter', offset: 0 };

const sumOf = ({ rows }: FiguresAnswer, figure: number) => rows[0]?.figures[figure] ?? 0;

interface Props {
  /** Whose deals; everyone's within reach when left out. */
  whose?: Condition;
  /** Whose, in a word or two, for readers who cannot see the band. */
  name: string;
}

/** How far a person or team has come this fiscal quarter: won, weighted open, and the target mark. */
export function Waterline({ whose, name }: Props) {
  const { organisation, today, catalogue } = useSession();
  const questions = periodQuestions(whose, THIS_QUARTER);
  // Of amounts that are hidden there is nothing to draw.
  const isSeen = fieldOf(catalogue, 'deal', 'value') !== undefined;
  const { data } = useQuery({
    ...figureAnswers([questions.won, questions.open, questions.target]),
    enabled: isSeen,
  });
  const quarter = fiscalQuarterLabel(today, organisation);
  if (!isSeen) return null;
  if (!data) return <div className="waterline waterline-waiting" />;
  const [won, open, target] = data;
  const line: Figures = {
    won: sumOf(won, 1),
    open: sumOf(open, 1),
    weightedOpen: sumOf(open, 2),
    target: sumOf(target, 0) || null,
  };
  return (
    <>
      <Band
        line={line}
        quarter={quarter}
        name={name}
        wonQuestion={questions.won}
        openQuestion={questions.open}
        counts={[sumOf(won, 0), sumOf(open, 0)]}
      />
      <Unrated
        parts={[
          [questions.won, won.unrated],
          [questions.open, open.unrated],
          [questions.target, target.unrated],
        ]}
      />
    </>
  );
}

interface BandProps {
  line: Figures;
  quarter: string;
  name: string;
  wonQuestion: Question;
  openQuestion: Question;
  counts: [won: number, open: number];
}

function Band({ line, quarter, name, wonQuestion, openQuestion, counts }: BandProps) {
  const { currency } = useSession().organisation;
  const { won, weightedOpen, open, target } = line;
  const { attainment, gap, coverage } = progressOf(line);
  const reach = Math.max(won + weightedOpen, target ?? 0, 1);
  // A little room is left behind what reaches furthest.
  const share = (value: number) => `${(100 * value) / (reach * 1.02)}%`;
  return (
    <section className="waterline" aria-label={`${name}, ${quarter}`}>
      <p className="waterline-head">
        <Link className="waterline-won" to={listAddress('deals', wonQuestion)}>
          {money(won, currency)}
        </Link>
        <span>
          won in {quarter}
          {target ? ` of ${money(target, currency)}` : ', no target set'}
          {attainment !== null && `, ${percent(attainment)}`}
        </span>
      </p>
      <svg
        className="waterline-band"
        width="100%"
        height="22"
        role="img"
        aria-label={`${name}: won ${money(won, currency)}, weighted open ${money(weightedOpen, currency)}`}
      >
        <rect className="band-ground" x="0" y="4" width="100%" height="14" rx="2" />
        <rect className="band-open" x={share(won)} y="4" width={share(weightedOpen)} height="14" />
        <rect className="band-won" x="0" y="4" width={share(won)} height="14" rx="2" />
        {target !== null && (
          <line className="band-target" x1={share(target)} x2={share(target)} y1="0" y2="22" />
        )}
      </svg>
      <ul className="waterline-figures">
        <li className="of-won">
          <Link to={listAddress('deals', wonQuestion)}>{counted(counts[0], 'deal')}</Link> won
        </li>
        <li className="of-open">
          <Link to={listAddress('deals', openQuestion)}>{shortMoney(open, currency)}</Link> open in{' '}
          {counted(counts[1], 'deal')}, weighted {shortMoney(weightedOpen, currency)}
        </li>
        {target !== null && (
          <li className="of-target">
            {gap > 0 ? (
              <>
                {shortMoney(gap, currency)} still needed
                {coverage !== null && `, open covers ${coverage.toFixed(1)}×`}
              </>
            ) : (
              'Target reached'
            )}
          </li>
        )}
      </ul>
    </section>
  );
}
