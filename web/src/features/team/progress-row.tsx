import { progressIn, type ReportDesign, type ReportRow } from '@zawn/core';
import { type ReactNode } from 'react';
import { Link } from 'react-router';
import { percent, shortMoney } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';

/** A figure that opens the records it counts; a dash when there are none. */
function Figure({ to, children, isNothing }: { to: string; children: ReactNode; isNothing: boolean }) {
  return (
    <td className="figure">
      {isNothing ? <span className="second">–</span> : <Link to={to}>{children}</Link>}
    </td>
  );
}

interface Props {
  name: string;
  /** How they are marked in the bars above. */
  colour?: string;
  /** The report that the row is of. */
  design: ReportDesign;
  /** Undefined where nothing is known of them. */
  row: ReportRow | undefined;
  /** The address of the records behind a figure. */
  addressOf: (figure: string) => string;
}

/** How far a person, a team or everybody has come in a period. Every figure opens its records. */
export function ProgressRow({ name, colour, design, row, addressOf }: Props) {
  const { currency } = useSession().organisation;
  const { open, won, lost, target, attainment, winRate } = progressIn(design, row);
  const rate = winRate.byCount;
  return (
    <tr>
      <th scope="row">
        {colour && <span className="team-colour" style={{ background: colour }} />}
        {name}
      </th>
      <Figure to={addressOf('expected')} isNothing={open.count === 0}>
        {shortMoney(open.value, currency)}
      </Figure>
      <Figure to={addressOf('weighted')} isNothing={open.count === 0}>
        {shortMoney(open.weighted, currency)}
      </Figure>
      <Figure to={addressOf('won')} isNothing={won.count === 0}>
        {shortMoney(won.value, currency)}
      </Figure>
      <td className="figure">{target ? shortMoney(target, currency) : '–'}</td>
      <td className="figure">{attainment === null ? '–' : percent(attainment)}</td>
      <Figure to={addressOf('wondeals')} isNothing={won.count === 0}>
        {won.count}
      </Figure>
      <Figure to={addressOf('lostdeals')} isNothing={lost.count === 0}>
        {lost.count}
      </Figure>
      <td className="figure">{rate === null ? '–' : percent(rate)}</td>
    </tr>
  );
}
