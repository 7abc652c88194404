import { choiceLabel, fieldOf, outcomesOf, type AnyRecord } from '@zawn/core';
import { useSession } from '../../platform/sessions/session';
import { Recording } from '../calls/recording';
import { KindIcon } from './kinds';

interface Props {
  entry: { record: AnyRecord };
}

export const ActivitySign = ({ entry: { record } }: Props) => <KindIcon kind={String(record.kind)} />;

/** What was done, what came of it, and how long it took. */
export function ActivityLine({ entry: { record } }: Props) {
  const { catalogue } = useSession();
  const { outcome, result, minutes, place } = record;
  const said = outcome ? choiceLabel(fieldOf(catalogue, 'activity', 'outcome'), String(outcome)) : '';
  const lasted = [minutes ? `${String(minutes)} min` : '', place ?? ''].filter(Boolean).join(', ');
  const asked = outcomesOf(catalogue, String(record.kind)).length > 0;
  const noOutcome = asked && !outcome ? 'no outcome written down' : '';
  return (
    <>
      <span>
        <b>{record.name}</b>{' '}
        {noOutcome ? <span className="attention">{noOutcome}</span> : <span>{said}</span>}{' '}
        <span className="second">{lasted}</span>
      </span>
      {result && <p>{result}</p>}
      <Recording activity={record} />
      {record.recordingGone && <p className="second">Recording: {record.recordingGone}</p>}
    </>
  );
}
