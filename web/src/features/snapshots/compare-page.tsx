import { useQuery } from '@tanstack/react-query';
import {
  changeOf,
  comparedRows,
  differs,
  figureLabel,
  formatOf,
  groupingInWords,
  oneSeries,
  saidOfComparison,
  type ComparedRow,
  type CompareAnswer,
  type ComparedWith,
  type FieldValue,
  type ReportAnswer,
  type FrozenAnswer,
  type ReportFigure,
  type Snapshot,
} from '@zawn/core';
import { Checkbox, Select } from 'antd';
import { useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { keyLabel } from '../../kernel/drawings/key-label';
import { download } from '../../platform/api/client';
import { oneRecord } from '../../platform/api/queries';
import { clock, counted, date, number } from '../../platform/frame/format';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { ExportButton, figureFiles } from '../reports/export-button';
import { reportFigureText } from '../reports/figures';
import '../reports/reports.css';
import { ComparedDrawing } from './compared-drawing';
import { Differences } from './differences';
import { placeAddress, usePlace } from './place-address';
import { comparedSnapshots } from './queries';
import './snapshots.css';
import { useFrozenPart } from './use-frozen-part';

/** Two moments of a report side by side, what differs marked; a difference opens the records that make it. */
export function Component() {
  const { id: text } = useParams();
  const [parameters] = useSearchParams();
  const id = Number(text);
  const asked = parameters.get('with') ?? 'now';
  const other: ComparedWith = asked === 'now' ? 'now' : Number(asked);
  const { data, error, refetch } = useQuery(comparedSnapshots(id, other));
  const { data: found } = useQuery(oneRecord('snapshot', id));
  const { place, close } = usePlace();
  const { policy } = useSession();
  const [isDifferent, setDifferent] = useState(false);
  /** The series that is compared alone, in JSON as a key may be empty. */
  const [series, setSeries] = useState<string>();
  const snapshot = found?.record as Snapshot | undefined;
  if (error) return <Trouble error={error} retry={() => void refetch()} />;
  if (!data || !snapshot) return <Skeleton rows={12} />;
  const { was, is } = data;
  const split = series === undefined ? undefined : (JSON.parse(series) as FieldValue);
  const takeOut = (format: string) =>
    download(`/snapshots/${id}/compare/file`, {
      with: other,
      format,
      ...(isDifferent ? { isDifferent } : {}),
      ...(split === undefined ? {} : { split }),
    });
  return (
    <div className={place ? 'report-page report-page-beside' : 'report-page'}>
      <div className="report">
        <header className="page-head view-head">
          <h1>{snapshot.name}</h1>
          <span className="page-count">
            <Link to={`/snapshots/${id}`}>Back to the snapshot</Link>
          </span>
          <div className="page-tools">
            <SeriesSelect answer={data} series={series} choose={setSeries} />
            <Checkbox checked={isDifferent} onChange={(event) => setDifferent(event.target.checked)}>
              Only what differs
            </Checkbox>
            {policy.allows(is.design.question.object, 'export') && (
              <ExportButton files={figureFiles} take={takeOut} />
            )}
          </div>
        </header>
        <div className="report-body">
          {saidOfComparison(data, number).map((words) => (
            <p key={words} className="left-out">
              {words}.
            </p>
          ))}
          {was.answer && is.answer ? (
            <ComparedTable
              was={was}
              is={is}
              split={split}
              isDifferent={isDifferent}
              other={asked}
              openedFigure={place?.figure}
            />
          ) : (
            <Empty title="These figures are not yours to see." />
          )}
        </div>
      </div>
      {place && (
        <Differences snapshot={id} other={other} place={place} figures={is.design.figures} close={close} />
      )}
    </div>
  );
}

interface TableProps {
  was: FrozenAnswer;
  is: FrozenAnswer;
  split: FieldValue | undefined;
  isDifferent: boolean;
  other: string;
  /** The figure whose differences are looked at. */
  openedFigure: string | undefined;
}

function ComparedTable({ was, is, split, isDifferent, other, openedFigure }: TableProps) {
  const part = useFrozenPart(is);
  const { timeZone, dayOf } = useSession();
  if (!part || !was.answer || !is.answer) return null;
  const { design, wording, labels } = part;
  const { catalogue } = wording;
  const { figures, question } = design;
  const { object, groups = [] } = question;
  const names = { ...was.answer.names, ...is.answer.names };
  const ofSeries = (answer: ReportAnswer) => (split === undefined ? answer : oneSeries(answer, split));
  const text = (value: number | null | undefined, figure: ReportFigure) =>
    reportFigureText(value ?? null, figure, design, catalogue, labels.currency ?? '');
  const isSameDay = dayOf(was.moment.now) === dayOf(is.moment.now);
  const moment = ({ moment: { now } }: FrozenAnswer) =>
    isSameDay && other !== 'now' ? clock(now, timeZone) : date(dayOf(now));
  const nameOf = ({ keys, isRest }: ComparedRow) => {
    if (isRest) return 'The others';
    if (keys.length === 0) return groups.length === 0 ? 'All' : 'All together';
    return keyLabel(object, groups[keys.length - 1], keys[keys.length - 1], { ...labels, names });
  };
  const addressOf = ({ keys }: ComparedRow, figure: ReportFigure) =>
    placeAddress({ keys, figure, ...(split === undefined ? {} : { split }) }, { with: other });
  const moments = [moment(was), other === 'now' ? 'now' : moment(is)] as const;
  const [all, ...inside] = comparedRows(ofSeries(was.answer), ofSeries(is.answer));
  const shown = isDifferent ? inside.filter((row) => differs(row, figures)) : inside;
  const count = inside.filter((row) => differs(row, figures)).length;
  const line = (row: ComparedRow) => (
    <tr
      key={JSON.stringify([row.keys, row.isRest])}
      className={[
        row.keys.length < groups.length && !row.isRest ? 'report-group' : '',
        differs(row, figures) ? 'compared-differs' : '',
      ].join(' ')}
    >
      <th scope="row" style={{ paddingLeft: 10 + Math.max(0, row.keys.length - 1) * 20 }}>
        {nameOf(row)}
        {!row.is && <span className="second"> gone</span>}
        {!row.was && <span className="second"> new</span>}
      </th>
      {figures.map((figure, index) => {
        const [then, now] = [row.was?.figures[index], row.is?.figures[index]];
        const address = row.isRest ? undefined : addressOf(row, figure);
        return [
          <td key={`${figure.key} was`} className="figure report-edge">
            {text(then, figure)}
          </td>,
          <td key={`${figure.key} is`} className="figure">
            {text(now, figure)}
          </td>,
          <td key={`${figure.key} change`} className="figure compared-change">
            <Change
              by={changeOf(row, index)}
              address={address}
              text={(value) => text(value, figure)}
              isPart={formatOf(figure, design, catalogue) === 'percent'}
            />
          </td>,
        ];
      })}
    </tr>
  );
  return (
    <>
      <p className="second" role="status">
        {count === 0
          ? 'Nothing differs.'
          : `${counted(count, 'row differs', 'rows differ')} of ${number(inside.length)}.`}
      </p>
      <ComparedDrawing
        part={part}
        rows={shown}
        openedFigure={openedFigure}
        moments={moments}
        nameOf={nameOf}
        text={text}
        addressOf={addressOf}
      />
      <div className="report-table" tabIndex={0} role="region" aria-label="Figures side by side">
        <table>
          <thead>
            <tr>
              <td />
              {figures.map((figure) => (
                <th key={figure.key} scope="colgroup" colSpan={3} className="figure report-edge">
                  {figureLabel(figure, design, catalogue)}
                </th>
              ))}
            </tr>
            <tr>
              <th scope="col" className="second">
                {groups.map((grouping) => groupingInWords(catalogue, object, grouping)).join(', then ')}
              </th>
              {figures.map((figure) => [
                <th key={`${figure.key} was`} scope="col" className="figure second report-edge">
                  {moments[0]}
                </th>,
                <th key={`${figure.key} is`} scope="col" className="figure second">
                  {moments[1]}
                </th>,
                <th key={`${figure.key} change`} scope="col" className="figure second compared-change">
                  change
                </th>,
              ])}
            </tr>
          </thead>
          <tbody>{shown.map(line)}</tbody>
          <tfoot>{line(all)}</tfoot>
        </table>
      </div>
    </>
  );
}

interface SeriesProps {
  answer: CompareAnswer;
  series: string | undefined;
  choose: (series: string | undefined) => void;
}

/** Which series of a report that is split is compared: one of them, or all together. */
function SeriesSelect({ answer: { was, is }, series, choose }: SeriesProps) {
  const part = useFrozenPart(is);
  const { split } = is.design;
  if (!split || !part || !was.answer || !is.answer) return null;
  const keys = [...new Set([...is.answer.splits, ...was.answer.splits])];
  const labels = { ...part.labels, names: { ...was.answer.names, ...is.answer.names } };
  return (
    <Select
      aria-label="Series"
      value={series ?? null}
      popupMatchSelectWidth={false}
      onChange={(chosen: string | null) => choose(chosen ?? undefined)}
      options={[
        { value: null, label: 'All together' },
        ...keys.map((key) => ({
          value: JSON.stringify(key),
          label: keyLabel(is.design.question.object, split, key, labels),
        })),
      ]}
    />
  );
}

interface ChangeProps {
  by: number | null;
  address: string | undefined;
  text: (value: number) => string;
  isPart: boolean;
}

/** By how much a figure differs; it opens the records that make the difference. */
function Change({ by, address, text, isPart }: ChangeProps) {
  if (!by) return <span className="second">–</span>;
  const words = isPart
    ? `${by > 0 ? '+' : '−'}${number(Math.round(Math.abs(by) * 1000) / 10)} points`
    : `${by > 0 ? '+' : '−'}${text(Math.abs(by))}`;
  return address ? <Link to={address}>{words}</Link> : <>{words}</>;
}
