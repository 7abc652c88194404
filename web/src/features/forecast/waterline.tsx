import { useQuery } from '@tanstack/react-query';
import {
  allBehind,
  fieldOf,
  fiscalQuarterLabel,
  progressIn,
  progressReport,
  type Condition,
  type ProgressFigures,
  type Question,
  type RelativePeriod,
  type ReportPeriod,
} from '@zawn/core';
import { Link } from 'react-router';
import { reportAnswer } from '../../platform/api/queries';
import { counted, money, percent, shortMoney } from '../../platform/frame/format';
import { listAddress } from '../../kernel/questions/list-address';
import { Unrated } from '../../kernel/questions/unrated';
import { useSession } from '../../platform/sessions/session';
import './waterline.css';

const THIS_QUARTER: RelativePeriod = { unit: 'fiscalQuarter', offset: 0 };

interface Props {
  /** Whose deals; everyone's within reach when left out. */
  whose?: Condition;
  /** Whose, in a word or two, for readers who cannot see the band. */
  name: string;
  /** The days it is about, and how they are called; this fiscal quarter when left out. */
  period?: { in: ReportPeriod['in']; words: string };
}

/** How far a person or team has come in a period: won, weighted open, and the target mark. */
export function Waterline({ whose, name, period }: Props) {
  const { organisation, today, catalogue } = useSession();
  const design = progressReport(whose, period?.in ?? THIS_QUARTER);
  // Of amounts that are hidden there is nothing to draw.
  const isSeen = fieldOf(catalogue, 'deal', 'value') !== undefined;
  const { data } = useQuery({ ...reportAnswer(design), enabled: isSeen });
  const quarter = period?.words ?? fiscalQuarterLabel(today, organisation);
  if (!isSeen) return null;
  if (!data) return <div className="waterline waterline-waiting" />;
  const { rows, unrated } = data.answer;
  const behind = (key: string) => allBehind(data.design, key, { calendar: organisation, today });
  return (
    <>
      <Band
        progress={progressIn(data.design, rows[0])}
        quarter={quarter}
        name={name}
        wonQuestion={behind('won')}
        openQuestion={behind('expected')}
      />
      <Unrated parts={unrated.map(({ question, count }) => [question, count] as const)} />
    </>
  );
}

interface BandProps {
  progress: ProgressFigures;
  quarter: string;
  name: string;
  wonQuestion: Question;
  openQuestion: Question;
}

function Band({ progress, quarter, name, wonQuestion, openQuestion }: BandProps) {
  const { currency } = useSession().organisation;
  const { target, attainment, gap, coverage } = progress;
  const [won, open, weightedOpen] = [progress.won.value, progress.open.value, progress.open.weighted];
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
          <Link to={listAddress('deals', wonQuestion)}>{counted(progress.won.count, 'deal')}</Link> won
        </li>
        <li className="of-open">
          <Link to={listAddress('deals', openQuestion)}>{shortMoney(open, currency)}</Link> open in{' '}
          {counted(progress.open.count, 'deal')}, weighted {shortMoney(weightedOpen, currency)}
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
