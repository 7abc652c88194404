import { useQuery } from '@tanstack/react-query';
import {
  isMoneyMeasure,
  isSubject,
  objectType,
  type ComparedWith,
  type DifferencesAnswer,
  type DifferingRecord,
  type FrozenRecordsRequest,
  type ReportFigure,
} from '@zawn/core';
import { money, number } from '../../platform/frame/format';
import { useOpening } from '../../platform/frame/opening';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { BesidePanel } from '../reports/beside-panel';
import { differencesBehind } from './queries';

interface Props {
  snapshot: number;
  other: ComparedWith;
  place: FrozenRecordsRequest['place'];
  figures: readonly ReportFigure[];
  close: () => void;
}

const kinds = [
  ['came', 'Came in'],
  ['went', 'Went out'],
  ['changed', 'Count otherwise'],
] as const;

/** The records that make a figure differ from that of another moment. */
export function Differences({ snapshot, other, place, figures, close }: Props) {
  const { data, error, refetch } = useQuery(differencesBehind(snapshot, other, place));
  const figure = figures.find(({ key }) => key === place.figure);
  return (
    <BesidePanel label="Records that differ" heading="What makes the difference" of={place} close={close}>
      {error ? (
        <Trouble error={error} retry={() => void refetch()} />
      ) : !data ? (
        <Skeleton rows={8} />
      ) : (
        <div className="frozen-records">
          {kinds.every(([kind]) => data[kind].length === 0) && (
            <p className="second">
              The same records stand behind both. What differs follows from other figures, or from rates.
            </p>
          )}
          {kinds.map(([kind, label]) => (
            <Kind key={kind} label={label} kind={kind} answer={data} figure={figure} />
          ))}
        </div>
      )}
    </BesidePanel>
  );
}

function Kind({
  label,
  kind,
  answer,
  figure,
}: {
  label: string;
  kind: 'came' | 'went' | 'changed';
  answer: DifferencesAnswer;
  figure: ReportFigure | undefined;
}) {
  const { catalogue, organisation } = useSession();
  const { object } = answer;
  const all = answer[kind];
  const more = answer.more[kind];
  if (all.length === 0) return null;
  const measure = figure && 'measure' in figure ? figure.measure : undefined;
  const isMoney = measure && isMoneyMeasure(measure, object, { catalogue });
  const isCounted = !measure || measure.as === 'count' || measure.as === 'distinct';
  const text = (value: number | null) =>
    value === null ? '' : isMoney ? money(Math.round(value), organisation.currency) : number(value);
  return (
    <section aria-label={label}>
      <h3>
        {label}: {number(all.length + more)}{' '}
        {objectType(object)[all.length + more === 1 ? 'label' : 'plural'].toLowerCase()}
      </h3>
      <table>
        <tbody>
          {all.map((record) => (
            <tr key={record.id}>
              <th scope="row">
                <RecordName object={object} record={record} />
              </th>
              {!isCounted && (
                <td className="figure">
                  {kind === 'changed'
                    ? `${text(record.was)} → ${text(record.is)}`
                    : text(record.is ?? record.was)}
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
      {more > 0 && <p className="second">And {number(more)} more.</p>}
    </section>
  );
}

function RecordName({
  object,
  record: { id, name, isThere },
}: {
  object: DifferencesAnswer['object'];
  record: DifferingRecord;
}) {
  const { open } = useOpening();
  if (!isThere || !isSubject(object))
    return (
      <>
        {name}
        {!isThere && <span className="second"> no longer to be opened</span>}
      </>
    );
  return (
    <button type="button" className="link-button" onClick={() => open(object, id)}>
      {name}
    </button>
  );
}
