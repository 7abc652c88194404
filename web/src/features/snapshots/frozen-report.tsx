import { daysInWords, seenInWords, type FrozenAnswer, type RowPlace } from '@zawn/core';
import { date, number } from '../../platform/frame/format';
import { Empty } from '../../platform/frame/states';
import { ForPaper } from '../../platform/theme/for-paper';
import { Unrated } from '../../kernel/questions/unrated';
import { ReportDrawingPart } from '../reports/report-drawing';
import { ReportTable } from '../reports/report-table';
import { useFrozenPart } from './use-frozen-part';

interface Props {
  frozen: FrozenAnswer;
  addressOf: (place: RowPlace) => string;
}

/** How many of the records of a snapshot the reader sees, where that is not all of them. */
function SeenOf({ frozen }: { frozen: FrozenAnswer }) {
  const words = seenInWords(frozen, number);
  return words && <p className="left-out">{words}.</p>;
}

/** The drawing and the table of a snapshot. */
export function FrozenReport({ frozen, addressOf }: Props) {
  const part = useFrozenPart(frozen);
  const { answer, hidden } = frozen;
  if (!answer || !part)
    return (
      <Empty title="These figures are not yours to see.">
        <p>They follow from {hidden.join(', ')}.</p>
      </Empty>
    );
  const shown = { ...part, answer, addressOf };
  return (
    <>
      {answer.period && (
        <p className="second report-days">
          {daysInWords(answer.period, date)}
          {answer.compared.before && `, against ${daysInWords(answer.compared.before, date)}`}
          {answer.compared.yearBefore && `, against ${daysInWords(answer.compared.yearBefore, date)}`}
        </p>
      )}
      <SeenOf frozen={frozen} />
      <Unrated parts={answer.unrated.map(({ question, count }) => [question, count] as const)} />
      {part.design.draw !== 'none' && (
        <ForPaper className="report-drawing">
          <ReportDrawingPart {...shown} />
        </ForPaper>
      )}
      {answer.isCut && <p className="left-out">There were more groups than are shown.</p>}
      <ReportTable {...shown} furtherDown={() => undefined} />
    </>
  );
}
